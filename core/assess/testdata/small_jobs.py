"""Small jobs worked by themselves: python3 small_jobs.py > small_jobs.json

Separate from the Go code: masses by Simpson's rule over slices, the energy sum by summing
narrow strips and bisection, statics by solving the balance of forces, the beam by walking down
the stem. Lengths in m, forces in kN, masses in kg, angles in degrees.
Sources: energy sum and rope as in the calculation contract; capstan equation; statics of three
forces; Euler-Bernoulli stress N/A + M(D/2)/I; hitch factors as in ASME B30.9 (from memory).
"""
import json
import math

G = 9.80665


def stem_at(job, z, hole="read"):
    """Diameter and cavity at a height, straight lines between readings. Between readings more than a metre apart whose
    cavities differ nobody knows: it is the "least" or the "most" of both, as shares of the diameter."""
    rows = job["stem"]
    for (z0, d0, c0), (z1, d1, c1) in zip(rows, rows[1:]):
        if z <= z1:
            f = (z - z0) / (z1 - z0)
            c = c0 + f * (c1 - c0)
            if z1 - z0 > 1 and hole != "read" and 0 < f < 1:
                share = min(c0 / d0, c1 / d1) if hole == "least" else max(c0 / d0, c1 / d1)
                c = share * (d0 + f * (d1 - d0))
                if c0 == c1:
                    c = c0
            return d0 + f * (d1 - d0), c
    return rows[-1][1], rows[-1][2]


def area_at(job, z):
    """Square of the diameter, straight between readings."""
    rows = job["stem"]
    for (z0, d0, _), (z1, d1, _) in zip(rows, rows[1:]):
        if z <= z1:
            return d0 * d0 + (z - z0) / (z1 - z0) * (d1 * d1 - d0 * d0)
    return rows[-1][1] ** 2


def weigh(job, low, high, density):
    """Mass between two heights, and its balance above the lower: the heavier wood with the least hole, the lighter with the most."""
    hole = {"high": "least", "low": "most"}.get(next(k for k, v in job["density"].items() if v == density), "read")
    cuts = sorted({low, high} | {r[0] for r in job["stem"] if low < r[0] < high})
    mass = first = 0.0
    for a, b in zip(cuts, cuts[1:]):
        n = 400
        h = (b - a) / n
        for k in range(n + 1):
            z = a + k * h
            w = h / 3 * (1 if k in (0, n) else 4 if k % 2 else 2)
            # Right at a reading it is that of the stretch.
            d, c = stem_at(job, min(max(z, a + 1e-9), b - 1e-9), hole)
            square = d * d
            if hole == "least":
                # The heavier stem is as full as a paraboloid between readings: its areas run straight.
                square = area_at(job, min(max(z, a + 1e-9), b - 1e-9))
            line = math.pi / 4 * (square - c * c) * density
            mass += w * line
            first += w * line * (z - low)
    return mass, first / mass


def strain(rope, t):
    """Strain at a tension, straight lines through the table, the last slope carried on."""
    points = [(0.0, 0.0)] + [(rope["mbs_kn"] * p / 100, s / 100) for p, s in rope["table"]]
    for (t0, e0), (t1, e1) in zip(points, points[1:]):
        if t <= t1 or (t1, e1) == points[-1]:
            return e0 + (t - t0) * (e1 - e0) / (t1 - t0)


def catch(mass, fall, line, lead, rope, r, hold):
    """Peak and run of the energy sum."""
    weight = mass * G / 1000

    def give(t):
        return line * strain(rope, t) + lead * strain(rope, r * t)

    def stored(t, n=20000):
        # The area beside the curve: strips of mean tension times what the rope gives.
        total, last = 0.0, 0.0
        for k in range(1, n + 1):
            x = give(t * k / n)
            total += t * (k - 0.5) / n * (x - last)
            last = x
        return total

    low, high = weight, 500.0
    for _ in range(48):
        t = (low + high) / 2
        if stored(t) < weight * (fall + give(t)):
            low = t
        else:
            high = t
    peak, run = low, 0.0
    slips = hold / r if hold is not None else math.inf
    if peak > slips:
        peak = slips
        run = (weight * (fall + give(slips)) - stored(slips)) / (slips - weight)
    return peak, run, give(peak)


def worst_stress(job, top, loads, density):
    """Largest stress of the upright stem below top: loads are (height, down, arm), kN and m."""
    worst = (0.0, 0.0)
    n = 4000
    bottom = job["stem"][0][0]
    own = 0.0
    step = (top - bottom) / n
    places = sorted({bottom + step * k for k in range(n + 1)} | {at for at, _, _ in loads}, reverse=True)
    for above, z in zip([top] + places, places):
        step = above - z
        if step > 0:
            d, c = stem_at(job, z + step / 2, "most")
            own += math.pi / 4 * (d * d - c * c) * density * step * G / 1000
        d, c = stem_at(job, z, "most")
        axial = own + sum(down for at, down, _ in loads if at >= z)
        moment = sum(down * arm for at, down, arm in loads if at >= z)
        area = math.pi / 4 * (d * d - c * c)
        inertia = math.pi / 64 * (d**4 - c**4)
        stress = (axial / area + abs(moment) * d / 2 / inertia) / 1000
        if stress > worst[0]:
            worst = (stress, z)
    return worst


def past_block(job):
    low, high = job["cut_m"], job["top_m"]
    mass, _ = weigh(job, low, high, job["density"]["high"])
    _, cog = weigh(job, low, high, job["density"]["likely"])
    r = job["efficiency"]
    block_z = low - job["block_below_m"]
    line = job["block_below_m"] + job["tie_m"] + job["slack_m"]
    fall = (job["block_below_m"] + cog) + line + abs(cog - job["tie_m"])
    lead = block_z - job["device_m"]

    def caught(times):
        """The peak, run and stretch with so many times the friction given, and what is left of the lead for the hand."""
        turns = 2 * math.pi * job.get("friction", 0) * times * job.get("wraps", 0)
        peak, run, stretch = catch(mass, fall, line, lead, job["rope"], r, job["hand_kn"] * math.exp(turns) if turns else None)
        return peak, run, stretch, r * peak * math.exp(-turns)

    # A quarter more friction holds it hardest, a quarter less lets most rope run; it is let run by the friction given.
    peak, _, _, hand_kn = caught(1.25)
    _, run, stretch, other_kn = caught(0.75)
    given_run = caught(1)[1]
    out = {
        "mass_kg": mass,
        "cog_m": cog,
        "line_kn": peak,
        "run_m": given_run,
        "block_kn": (1 + r) * peak,
        "device_kn": r * peak,
        "lowest_m": block_z - line - stretch - run - ((high - low) - job["tie_m"] if cog > job["tie_m"] else job["tie_m"]),
    }
    if job.get("wraps"):
        out["hand_kn"] = max(hand_kn, other_kn)
    d_block, _ = stem_at(job, block_z)
    d_device, _ = stem_at(job, job["device_m"])
    stress, at = worst_stress(job, low, [(block_z, (1 + r) * peak, d_block / 2), (job["device_m"], -r * peak, d_device / 2)], job["density"]["high"])
    out["stress_mpa"], out["stress_at_m"] = stress, at
    return out


def from_above(job):
    """A section let go straight beneath a block on something else: it drops by what its balance
    is over its tie, turns over, and takes up the slack."""
    low, high = job["cut_m"], job["top_m"]
    mass, _ = weigh(job, low, high, job["density"]["high"])
    _, cog = weigh(job, low, high, job["density"]["likely"])
    r, block_z = job["efficiency"], job["block_z"]
    line = block_z - (low + job["tie_m"]) + job["slack_m"]
    fall = max(0, cog - job["tie_m"]) + abs(cog - job["tie_m"]) + job["slack_m"]
    dx, dz = job["device_x"], block_z - job["device_z"]
    lead = math.hypot(dx, dz)
    # The line turns over the block by less than half a turn: from straight down to the device.
    inner = math.atan2(dx, dz)
    contact = math.pi - inner
    ratio = 1 - (1 - r) * math.sin(contact / 2)
    peak, run, _ = catch(mass, fall, line, lead, job["rope"], ratio, None)
    return {
        "mass_kg": mass,
        "cog_m": cog,
        "line_kn": peak,
        "run_m": run,
        # Both legs pull on the block: straight down, and aside to the device.
        "block_kn": peak * math.hypot(ratio * math.sin(inner), 1 + ratio * math.cos(inner)),
        "device_kn": ratio * peak,
    }


def two_points(job):
    """Carried level between two points: the balance of forces at 41 places."""
    low, high = job["cut_m"], job["top_m"]
    mass, _ = weigh(job, low, high, job["density"]["high"])
    weight = mass * G / 1000
    a, b, z, r = job["a"], job["b"], job["carry_z"], job["efficiency"]
    best = {"line_kn": 0, "block_kn": 0, "second_kn": 0, "far_kn": 0}
    for k in range(41):
        x = a[0] + (b[0] - a[0]) * k / 40
        ua = (a[0] - x, a[1] - z)
        ub = (b[0] - x, b[1] - z)
        la, lb = math.hypot(*ua), math.hypot(*ub)
        ua, ub = (ua[0] / la, ua[1] / la), (ub[0] / lb, ub[1] / lb)
        det = ua[0] * ub[1] - ub[0] * ua[1]
        ta, tb = -ub[0] * weight / det, ua[0] * weight / det
        best["line_kn"] = max(best["line_kn"], ta)
        best["second_kn"] = max(best["second_kn"], tb)
        # The first line is let out, the second hauled in; both leads straight down.
        best["block_kn"] = max(best["block_kn"], math.hypot(ta * ua[0], ta * ua[1] + ta * r))
        best["far_kn"] = max(best["far_kn"], math.hypot(tb * ub[0], tb * ub[1] + tb / r))
    return dict(best, mass_kg=mass)


def crane(job):
    """Two slings to one hook: where three forces meet, and the balance of moments."""
    low, high = job["cut_m"], job["top_m"]
    kg = [weigh(job, low, high, job["density"][k])[0] for k in ("low", "likely", "high")]
    _, cog = weigh(job, low, high, job["density"]["likely"])
    (s1, l1), (s2, l2) = job["slings"]
    # The hook over the piece by the law of cosines; it hangs plumb over the balance.
    x = ((l1 * l1 - l2 * l2) / (s2 - s1) + (s2 + s1)) / 2
    y = math.sqrt(l1 * l1 - (x - s1) ** 2)
    plumb = (cog - x, -y)
    n = math.hypot(*plumb)
    down = (plumb[0] / n, plumb[1] / n)
    weight = kg[2] * G / 1000
    u1, u2 = ((x - s1) / l1, y / l1), ((x - s2) / l2, y / l2)
    det = u1[0] * u2[1] - u2[0] * u1[1]
    f = (-down[0] * weight, -down[1] * weight)
    t1, t2 = (f[0] * u2[1] - u2[0] * f[1]) / det, (u1[0] * f[1] - f[0] * u1[1]) / det
    hook = kg[2] + job["rigging_kg"]
    return {
        "mass_kg": kg[2],
        "sling_kn": [t1, t2],
        "sling_limit_kn": [job["wll_kn"] * 0.8] * 2,
        "hook_kn": hook * G / 1000,
        "hook_limit_kn": job["capacity_kg"] * 0.75 * G / 1000,
    }


def free(job):
    low, high = job["cut_m"], job["top_m"]
    mass, _ = weigh(job, low, high, job["density"]["high"])
    _, cog = weigh(job, low, high, job["density"]["likely"])
    return {"mass_kg": mass, "energy_kj": mass * G / 1000 * (low + cog), "least_reach_m": high - low}


STEM = [(0.5, 0.8, 0.2), (6.0, 0.6, 0.0), (18.0, 0.2, 0.0)]
ROPE = {"mbs_kn": 80, "table": [(10, 1.6), (20, 2.6)]}
# Northern red oak, 63 lb/ft3 green (Wood Handbook, from memory), a tenth either way.
OAK = {k: 63 * 16.018 * f for k, f in (("low", 0.9), ("likely", 1.0), ("high", 1.1))}
base = {"stem": STEM, "density": OAK, "top_m": 18.0, "rope": ROPE, "efficiency": 0.9, "device_m": 1.0, "slack_m": 0.0}
jobs = [
    dict(base, name="past its block, tied off", way="past-block", cut_m=15.0, tie_m=0.4, block_below_m=0.5),
    dict(base, name="past its block, run on wraps", way="past-block", cut_m=14.0, tie_m=0.6, block_below_m=0.4, slack_m=0.3, wraps=3.0, friction=0.22, hand_kn=0.25),
    dict(base, name="past its block, a short log over a hollow", way="past-block", stem=[(0.5, 0.9, 0.5), (6.0, 0.7, 0.45), (18.0, 0.2, 0.0)], cut_m=16.0, tie_m=0.3, block_below_m=0.3),
    dict(base, name="straight under a block on an anchor", way="from-above", cut_m=15.0, tie_m=2.2, block_z=26.0, device_x=9.0, device_z=0.5, slack_m=0.4),
    dict(base, name="between two points", way="two-points", cut_m=16.0, tie_m=1.2, a=(0.0, 25.0), b=(10.0, 24.0), carry_z=20.0),
    dict(base, name="by crane, two chokers of one length", way="crane", cut_m=14.0, slings=[(0.5, 3.5), (3.0, 3.5)], wll_kn=40, rigging_kg=220, capacity_kg=2600),
    dict(base, name="by crane, unlike slings", way="crane", cut_m=13.0, slings=[(0.4, 4.2), (3.9, 3.0)], wll_kn=50, rigging_kg=150, capacity_kg=1900),
    dict(base, name="free", way="free", cut_m=12.0),
    dict(base, name="thrown", way="thrown", cut_m=17.5),
]
work = {"past-block": past_block, "from-above": from_above, "two-points": two_points, "crane": crane, "free": free, "thrown": free}
for job in jobs:
    job["is"] = work[job["way"]](job)
print(json.dumps(jobs, indent=1))
