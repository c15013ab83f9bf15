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
# What it does to its block, for every kN of the line 0.3 of lead out and 0.2 aside: the hardest level pull out and back of the line alone;
# and a tree of 1500 kg at 12 rad/s, 5 % of critical damping, that gives way to it: its level pull when it stands, and what bends it when it sways.
def holder(sways):
    M, om = 1500.0, 12.0
    y = [5.0, -2.0, 0.0, -math.sqrt(2 * g * 0.1), 0.0, 0.0, 0.0, 0.0]  # x z vx vz u vu w vw
    out = back = still = bent = 0.0
    def rates(y):
        x, z = y[0] - (y[4] if sways else 0.0), y[1]
        far = math.hypot(x, z); e = far - L
        T = 0.0 if e <= 0 else tension(e)
        level, aside = T * (x / far + 0.3), T * 0.2
        return [y[2], y[3], -T / m * x / far, -T / m * z / far - g,
                y[5], level / M - om * om * y[4] - 0.1 * om * y[5], y[7], aside / M - om * om * y[6] - 0.1 * om * y[7]], T * x / far, level, aside
    dt, t = 1e-4, 0.0
    while t < 6:
        k1, line, level, aside = rates(y)
        out, back, still = max(out, line), min(back, line), max(still, math.hypot(level, aside))
        bent = max(bent, M * om * om * math.hypot(y[4], y[6]))
        k2 = rates([a + dt / 2 * b for a, b in zip(y, k1)])[0]
        k3 = rates([a + dt / 2 * b for a, b in zip(y, k2)])[0]
        k4 = rates([a + dt * b for a, b in zip(y, k3)])[0]
        y = [a + dt / 6 * (p + 2 * q + 2 * r + s) for a, p, q, r, s in zip(y, k1, k2, k3, k4)]
        t += dt
        if y[0] < 0 and y[2] >= 0: break
    return out / 1e3, back / 1e3, still / 1e3, bent / 1e3
print("stands", holder(False)); print("sways", holder(True))
print("locked", follow(1e12)); print("run", follow(1.5 * m * g))
