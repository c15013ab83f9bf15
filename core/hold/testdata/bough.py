# A block on a level bough as a line comes onto it, the bough a beam of 48 finite elements in its first ten modes, each with 5 % of critical
# damping; separate from the Go code. The bough tapers, of 1110.0474 kg/m3 and 9.3 GPa, with what hangs on it; the piece falls freely onto a
# line of EA 300 kN, 2 m to its block of 0.9 and 10 m behind that, which holds fast or runs at a hold. Prints the most that any section between
# the bough's base and the block feels, over what the worst of them feels with the peak of a block that stands still at rest.
import numpy as np
g, r, E, rho, EA, n = 9.80665, 0.9, 9.3e9, 1110.0474, 300e3, 48
def times(L, d0, d1, lump, at, block, m, fall, hold, nm=10):
    h = L / n
    mid = (np.arange(n) + 0.5) * h
    d = d0 + (d1 - d0) * mid / L
    EI, A = E * np.pi * d**4 / 64, np.pi * d * d / 4
    K, M = np.zeros((2 * n + 2, 2 * n + 2)), np.zeros((2 * n + 2, 2 * n + 2))
    for e in range(n):
        i = 2 * e
        K[i:i+4, i:i+4] += EI[e] / h**3 * np.array([[12, 6*h, -12, 6*h], [6*h, 4*h*h, -6*h, 2*h*h], [-12, -6*h, 12, -6*h], [6*h, 2*h*h, -6*h, 4*h*h]])
        M[i:i+4, i:i+4] += rho * A[e] * h / 420 * np.array([[156, 22*h, 54, -13*h], [22*h, 4*h*h, 13*h, -3*h*h], [54, 13*h, 156, -22*h], [-13*h, -3*h*h, -22*h, 4*h*h]])
    if lump: M[2 * round(at / h), 2 * round(at / h)] += lump
    K, M = K[2:, 2:], M[2:, 2:]
    low = np.linalg.inv(np.linalg.cholesky(M))
    square, V = np.linalg.eigh(low @ K @ low.T)
    V = (low.T @ V)[:, :nm]
    w = np.sqrt(square[:nm])
    b = round(block / h)
    phi = V[2 * (b - 1)]
    Z = np.vstack([np.zeros((2, nm)), V])
    C = np.array([EI[e] * (Z[2*e+3] - Z[2*e+1]) / h for e in range(b)])
    W = np.pi * d[:b]**3 / 32
    k, per, weight = EA / (2 + 10 * r), 1 + r, m * g
    peak = min(hold, weight + np.sqrt(weight**2 + 2 * k * weight * fall))
    q, p = np.zeros(nm), np.zeros(nm)
    x, v, run, most, t, dt = 0.0, np.sqrt(2 * g * fall), 0.0, 0.0, 0.0, 2e-5
    while v > 0 or t < np.pi / w[0]:
        s = x - per * (phi @ q) - run
        T = max(0.0, k * s)
        if T > hold: run += s - hold / k; T = hold
        p += (per * T * phi - w * w * q - 0.1 * w * p) * dt
        q += p * dt
        v += (g - T / m) * dt
        x += v * dt
        most = max(most, np.abs(C @ q / W).max())
        t += dt
    return most / (per * peak * (b * h - mid[:b]) / W).max(), w[0] / 2 / np.pi
for case in ((6, .25, .02, 0, 0, 3, 150, 1.5, 3e3), (6, .25, .02, 60, 5, 3, 150, 1.5, 3e3), (6, .25, .02, 60, 5, 1.5, 150, 1.5, 3e3), (6, .25, .02, 0, 0, 4.5, 80, .8, 1.5e3),
             (7, .6, .1, 100, 3.5, 2.1875, 60, 1, 1e9), (7, .6, .1, 100, 3.5, 2.1875, 160, 2, 4e3), (6, .25, .02, 0, 0, 3, 150, .6, 1e9)):
    print(case, "times %.3f, first mode %.2f Hz" % times(*case))
