# A piece swung onto a stretching line, followed by Runge-Kutta in 0.1 ms steps; separate from
# the Go code. 120 kg, tie 5 m out and 2 m down, 0.4 m slack, 0.1 m of turn as speed at the
# start; rope of 60 kN, 2 % at 10 %, 5 % at 30 %; 9 m of lead behind a block of 0.9.
import math
g, m, r = 9.80665, 120.0, 0.9
L, lead, mbs = math.hypot(5, 2) + 0.4, 9.0, 60e3
def strain(T):
    p = T / mbs * 100
    return (p * 0.2 if p <= 10 else 2 + (p - 10) * 0.15) / 100
def give(T): return L * strain(T) + lead * strain(r * T)
# tension from stretch by bisection on a table
table = [i * 2.0 for i in range(0, 40001)]
gives = [give(T) for T in table]
import bisect
def tension(e):
    i = bisect.bisect_right(gives, e) - 1
    if i + 1 >= len(table): return table[-1]
    return table[i] + (e - gives[i]) / (gives[i + 1] - gives[i]) * 2.0
def follow(slip):
    x, z, vx, vz, run, peak, t, dt = 5.0, -2.0, 0.0, -math.sqrt(2 * g * 0.1), 0.0, 0.0, 0.0, 1e-4
    xs = give(slip) if slip < 1e9 else None
    def acc(x, z):
        far = math.hypot(x, z)
        e = far - L - run
        T = 0.0 if e <= 0 else tension(e)
        if T > slip: T = slip
        return -T / m * x / far, -T / m * z / far - g, T
    while t < 6:
        a = acc(x, z); peak = max(peak, a[2])
        k1 = (vx, vz, a[0], a[1])
        b = acc(x + dt/2*k1[0], z + dt/2*k1[1]); k2 = (vx + dt/2*k1[2], vz + dt/2*k1[3], b[0], b[1])
        b = acc(x + dt/2*k2[0], z + dt/2*k2[1]); k3 = (vx + dt/2*k2[2], vz + dt/2*k2[3], b[0], b[1])
        b = acc(x + dt*k3[0], z + dt*k3[1]); k4 = (vx + dt*k3[2], vz + dt*k3[3], b[0], b[1])
        x += dt/6*(k1[0]+2*k2[0]+2*k3[0]+k4[0]); z += dt/6*(k1[1]+2*k2[1]+2*k3[1]+k4[1])
        vx += dt/6*(k1[2]+2*k2[2]+2*k3[2]+k4[2]); vz += dt/6*(k1[3]+2*k2[3]+2*k3[3]+k4[3])
        if xs is not None and math.hypot(x, z) - L - run > xs: run = math.hypot(x, z) - L - xs
        t += dt
        if x < 0 and vx >= 0: break
    return peak / 1e3, run
print("locked", follow(1e12)); print("run", follow(1.5 * m * g))
