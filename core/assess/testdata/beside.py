# Stems under pieces that fall past their block: a rigid rod that turns over its hinge, flies, and is caught on a line, on a beam of
# 24 elements of which eight modes sway; followed by Runge and Kutta in steps of 0.05 ms. Separate from the Go code, and plain physics:
# no figure of it is fitted. Needs numpy. Writes beside.json beside it:
#     python3 beside.py
# Each case: a round upright stem of one thickness, a piece of it as the pick, faces closing from 40 to 90 degrees; the worst stress
# anywhere along the stem at any moment until the piece has been caught and has swung back, in MPa.
import json
import multiprocessing
import os

os.environ["OPENBLAS_NUM_THREADS"] = "1"
import numpy as np

G = 9.80665
E, RHO = 9.3e9, 1110.0  # northern red oak as the table of woods has it, its density at the heavy end


def beam(height, d, n=24):
    """Lateral modes of a clamped round column: frequencies, shapes at nodes (w, slope), curvatures at nodes."""
    inertia, mass, le = np.pi * d**4 / 64, RHO * np.pi * d * d / 4, height / n
    k = E * inertia / le**3 * np.array([[12, 6*le, -12, 6*le], [6*le, 4*le*le, -6*le, 2*le*le], [-12, -6*le, 12, -6*le], [6*le, 2*le*le, -6*le, 4*le*le]])
    m = mass * le / 420 * np.array([[156, 22*le, 54, -13*le], [22*le, 4*le*le, 13*le, -3*le*le], [54, 13*le, 156, -22*le], [-13*le, -3*le*le, -22*le, 4*le*le]])
    K, M = np.zeros((2*n+2, 2*n+2)), np.zeros((2*n+2, 2*n+2))
    for e in range(n):
        K[2*e:2*e+4, 2*e:2*e+4] += k
        M[2*e:2*e+4, 2*e:2*e+4] += m
    K, M = K[2:, 2:], M[2:, 2:]
    low = np.linalg.inv(np.linalg.cholesky(M))
    square, vectors = np.linalg.eigh(low @ K @ low.T)
    shapes = low.T @ vectors[:, :8]
    shapes = np.vstack([np.zeros((2, 8)), shapes])
    return np.sqrt(square[:8]), shapes[0::2], shapes[1::2], K, le


def follow(case, face):
    h, d = case["cut_m"], case["thick_m"]
    omega, w, slope, K, le = beam(h, d)
    n = len(w) - 1
    nodes = np.linspace(0, h, n + 1)
    area, section = np.pi * d * d / 4, np.pi * d**3 / 32
    long = case["long_m"]
    m, c = RHO * area * long, long / 2
    turn = m * (long**2 / 12 + d * d / 16)
    tie, b, slack, r = case["tie_m"], case["below_m"], case["slack_m"], case["block"]
    line0, lead = b + tie + slack, h - b - case["device_m"]
    stiff = case["rope_kn"] * 1000 * 1.4
    spring = stiff / (line0 + r * lead)  # of the line's tension
    # Friction may be a quarter more than given.
    slip = 1.25 * case["hold_kn"] * 1000 / r if case["hold_kn"] else np.inf
    top, at_block = w[-1], np.array([np.interp(h - b, nodes, w[:, k]) for k in range(8)])
    worst = [0.0, 0.0, "", 0.0]

    def strained(t, q, side, down_block, phase):
        # Static under the level force, with what the modes are off their static place: so that eight are enough.
        modal_force = side * (top if phase == "hinge" else at_block)
        off = q - modal_force / omega**2
        arm = h if phase == "hinge" else h - b
        static = side * np.maximum(0, arm - nodes)
        # Curvature of the modes by their slopes at the nodes.
        bend = np.gradient(slope @ off, nodes, edge_order=2) * E * np.pi * d**4 / 64
        moment = np.abs(static + bend)
        own = RHO * area * G * (h - nodes)
        press = np.where(nodes <= arm + 1e-9, down_block, 0) + own
        stress = np.max(moment / section + press / area)
        if stress > worst[0]:
            worst[:] = [stress, t, phase, side]

    tilt, spin, t, dt = np.radians(2.0), 0.0, 0.0, 5e-5
    q, v = np.zeros(8), np.zeros(8)

    def hinged(s):
        q, v, tilt, spin = s[:8], s[8:16], s[16], s[17]
        sin, cos = np.sin(tilt), np.cos(tilt)
        # Level motion of the hinge x = top·q: M q'' + K q = −top·m·a_x, a_x = x'' + c(cos·tilt'' − sin·spin²);
        # (I+mc²) tilt'' = m g c sin − m c cos x''.
        A = np.zeros((9, 9))
        A[:8, :8] = np.eye(8) + m * np.outer(top, top)
        A[:8, 8] = m * c * cos * top
        A[8, :8] = m * c * cos * top
        A[8, 8] = turn + m * c * c
        rhs = np.append(-omega**2 * q + top * m * c * sin * spin**2, m * G * c * sin)
        a = np.linalg.solve(A, rhs)
        return np.concatenate([v, a[:8], [spin, a[8]]]), a

    def rk(f, s):
        k1 = f(s); k2 = f(s + dt/2*k1); k3 = f(s + dt/2*k2); k4 = f(s + dt*k3)
        return s + dt/6*(k1 + 2*k2 + 2*k3 + k4)

    s = np.concatenate([q, v, [tilt, spin]])
    coarse = 1e-3
    keep = dt
    dt = min(coarse / 2, 1 / omega[7])
    while s[16] < np.radians(face):
        s = rk(lambda y: hinged(y)[0], s)
        t += dt
        a = hinged(s)[1]
        sin, cos = np.sin(s[16]), np.cos(s[16])
        ax = top @ a[:8] + c * (cos * a[8] - sin * s[17]**2)
        az = -c * (sin * a[8] + cos * s[17]**2)
        strained(t, s[:8], -m * ax, m * (G + az), "hinge")
    dt = keep
    sin, cos = np.sin(s[16]), np.cos(s[16])
    x, z = top @ s[:8] + c * sin, b + c * cos
    vx, vz = top @ s[8:16] + c * cos * s[17], -c * sin * s[17]
    s = np.concatenate([s[:16], [x, z, s[16], vx, vz, s[17], 0.0]])

    def tied(y):
        arm = tie - c
        dx = y[16] + arm * np.sin(y[18]) - at_block @ y[:8]
        dz = y[17] + arm * np.cos(y[18])
        far = np.hypot(dx, dz)
        vx = y[19] + arm * np.cos(y[18]) * y[21] - at_block @ y[8:16]
        vz = y[20] - arm * np.sin(y[18]) * y[21]
        return far, dx / far, dz / far, (dx * vx + dz * vz) / far

    def free(y):
        far, nx, nz, grows = tied(y)
        stretch = far - line0 - y[22]
        T = spring * stretch if stretch > 0 else 0.0
        runs = 0.0
        if T >= slip and grows > 0:
            T, runs = slip, grows
        T = min(T, slip)
        arm = tie - c
        force = T * nx
        return np.concatenate([y[8:16], at_block * force - omega**2 * y[:8], [y[19], y[20], y[21], -T*nx/m, -T*nz/m - G, -T*arm*(nx*np.cos(y[18]) - nz*np.sin(y[18]))/turn, runs]])

    # Until it strikes the stem or its first catch is over, the line slack again or pulling more again; and half a sway more, let go.
    until, step, caught, before = t + 4, 0, False, 0.0
    while t < until:
        s = rk(free, s)
        t += dt
        step += 1
        if step % 10:
            continue
        far, nx, nz, grows = tied(s)
        T = min(slip, max(0.0, spring * (far - line0 - s[22])))
        strained(t, s[:8], T * nx, T * (r - nz), "line")
        if caught and (T == 0 or T > before):
            break
        caught = caught and T < m * G or before > m * G > T
        before = T
        ends = [(s[16] + along * np.sin(s[18]), s[17] + along * np.cos(s[18])) for along in (-c, long - c)]
        if any(x < top @ s[:8] and z < b - 0.01 for x, z in ends):
            break
    q, v = s[:8], s[8:16]
    for share in np.linspace(0, 1, 200):
        after = share * np.pi / omega[0]
        strained(t + after, q * np.cos(omega * after) + v / omega * np.sin(omega * after), 0.0, 0.0, "after")
    return worst


cases = [
    {"name": "30 cm oak, hold 8 kN", "thick_m": 0.3, "cut_m": 10.1, "long_m": 1.9, "hold_kn": 8.0},
    {"name": "30 cm oak, locked", "thick_m": 0.3, "cut_m": 10.1, "long_m": 1.9, "hold_kn": 0},
    {"name": "30 cm oak, half the weight", "thick_m": 0.3, "cut_m": 11.0, "long_m": 1.0, "hold_kn": 2.0},
    {"name": "45 cm, short stem", "thick_m": 0.45, "cut_m": 5.0, "long_m": 1.5, "hold_kn": 12.0},
    {"name": "25 cm, 14 m up", "thick_m": 0.25, "cut_m": 14.0, "long_m": 2.5, "hold_kn": 5.0},
    {"name": "30 cm, runs far", "thick_m": 0.3, "cut_m": 10.1, "long_m": 1.9, "hold_kn": 2.2},
    {"name": "40 cm, half a metre of slack", "thick_m": 0.4, "cut_m": 9.0, "long_m": 2.0, "hold_kn": 10.0, "slack_m": 0.5},
]
if __name__ == "__main__":
    for case in cases:
        for key, value in {"tie_m": 0.5, "below_m": 0.6, "slack_m": 0.1, "block": 0.9, "device_m": 1.2, "rope_kn": 800.0}.items():
            case.setdefault(key, value)
        with multiprocessing.Pool() as pool:
            faces = range(40, 91, 5)
            most = max((w + [face] for w, face in zip(pool.starmap(follow, [(case, face) for face in faces]), faces)), key=lambda w: w[0])
        case["stress_mpa"], case["phase"], case["face_deg"] = round(most[0] / 1e6, 3), most[2], most[4]
        print(case["name"], most[0] / 1e6, most[1:], flush=True)
    with open(os.path.join(os.path.dirname(os.path.abspath(__file__)), "beside.json"), "w") as out:
        json.dump(cases, out, indent=1)
        out.write("\n")
