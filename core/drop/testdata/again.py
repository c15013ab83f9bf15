# A piece on a line that is made fast, followed by Runge-Kutta in 0.2 ms steps from where its face closes through
# every catch of 8 s, without damping and without a stem to strike; separate from the Go code. A slender rod of
# 133 kg falls past its block over a hinge without moment; the line of EA 220 kN runs 1.1 m on behind a pulley
# without friction. Prints the energy sum of all its fall, and the most of the first catch and of all, over
# faces from 10 to 130 degrees.
import numpy as np
g, m, EA, lead, below = 9.80665, 133.0, 220e3, 1.1, 0.6
faces = np.arange(10.0, 131.0, 2.0)
for L, a in ((1.9, 0.3), (1.9, 0.63), (2.5, 0.3), (1.5, 0.5)):
    c = L / 2
    I = m * L * L / 12
    line = below + a
    k = EA / (line + lead)
    h = below + c + line + abs(c - a)
    W = m * g
    energy = W + np.sqrt(W * W + 2 * k * W * h)
    th = np.radians(faces)
    w = np.sqrt(2 * m * g * c * np.clip(np.cos(np.radians(2)) - np.cos(th), 0, None) / (I + m * c * c))
    s = np.array([c * np.sin(th), below + c * np.cos(th), th, c * np.cos(th) * w, -c * np.sin(th) * w, w])
    d = a - c
    def rates(s):
        x, z, t, vx, vz, w = s
        px, pz = x + d * np.sin(t), z + d * np.cos(t)
        r = np.hypot(px, pz)
        F = k * np.clip(r - line, 0, None)
        return np.array([vx, vz, w, -F * px / r / m, -F * pz / r / m - g, -F * d * (px * np.cos(t) - pz * np.sin(t)) / r / I]), F
    dt, most, first = 2e-4, np.zeros(len(faces)), np.zeros(len(faces))
    caught, over = np.zeros(len(faces), bool), np.zeros(len(faces), bool)
    for _ in range(int(8 / dt)):
        k1, F = rates(s)
        most = np.maximum(most, F)
        caught |= F > 0
        over |= caught & (F == 0)
        first = np.where(over, first, np.maximum(first, F))
        k2, _f = rates(s + dt / 2 * k1)
        k3, _f = rates(s + dt / 2 * k2)
        k4, _f = rates(s + dt * k3)
        s = s + dt / 6 * (k1 + 2 * k2 + 2 * k3 + k4)
    print(L, a, "energy sum %.3f, first catch %.3f, of all %.3f kN" % (energy / 1e3, first.max() / 1e3, most.max() / 1e3))
