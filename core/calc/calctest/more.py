"""Random cases of the static kinds: python3 more.py > more.json

Written from the contract's text, apart from the Go code: forces are balanced by Cramer's rule or
by bisection, angles come from vectors, integrals from sums. Each case is a question and what it
comes to. Lengths in m, forces in kN, angles in degrees. The seed stands; so do the cases.
"""
import json
import math
import random

G = 9.80665
R = random.Random(20261126)
CASES = []


def u(low, high, digits=3):
    return round(R.uniform(low, high), digits)


def case(kind, request, expect, tolerance=1e-6):
    CASES.append({"kind": kind, "request": request, "expect": expect, "tolerance": tolerance})


def unit(v):
    n = math.sqrt(sum(x * x for x in v))
    return [x / n for x in v]


def dot(a, b):
    return sum(x * y for x, y in zip(a, b))


def arms(line, tilt):
    """Forward and side moment of 1 kN on a line from a tree tilted forward, and its direction."""
    h = line["attach_height_m"]
    at = (h * math.sin(tilt), 0, h * math.cos(tilt))
    b = math.radians(line.get("bearing_deg", 0))
    d = line["anchor_distance_m"]
    to = (d * math.cos(b), d * math.sin(b), line.get("anchor_height_m", 0))
    v = unit([q - p for p, q in zip(at, to)])
    # The moment of a force at a place: r x F, about the axes of the hinge.
    return at[2] * v[0] - at[0] * v[2], at[2] * v[1], v


def fell():
    for n in range(24):
        tree = {"mass_kg": u(300, 6000), "cog_height_m": u(4, 12), "cog_forward_m": u(-1.5, 0.6), "cog_side_m": u(-0.8, 0.8)}
        hinge = {"width_m": u(0.2, 0.8), "thickness_m": u(0.02, 0.09), "strength_mpa": u(30, 70)} if n % 4 else None
        pull = {"attach_height_m": u(5, 14), "anchor_distance_m": u(8, 50), "anchor_height_m": u(-2, 3), "bearing_deg": u(-40, 40)}
        request = {"tree": tree, "pull": pull, "margin": u(1, 1.8)}
        if hinge:
            request["hinge"] = hinge
        keep = None
        if n % 3 == 0:
            keep = {"attach_height_m": u(5, 12), "anchor_distance_m": u(8, 30), "bearing_deg": math.copysign(u(60, 110), -tree["cog_side_m"])}
            request["retainer"] = keep
        wedge = None
        if n % 2:
            wedge = {"distance_m": u(0.2, 0.7)}
            request["wedge"] = wedge
        w = tree["mass_kg"] * G / 1000
        bend = 1000 * hinge["strength_mpa"] * hinge["width_m"] * hinge["thickness_m"] ** 2 / 4 if hinge else 0
        side_cap = 1000 * hinge["strength_mpa"] * hinge["thickness_m"] * hinge["width_m"] ** 2 / 6 if hinge else None

        def solve(tilt):
            need = request["margin"] * (bend - w * (tree["cog_forward_m"] * math.cos(tilt) + tree["cog_height_m"] * math.sin(tilt)))
            a, b, _ = arms(pull, tilt)
            if not keep:
                return max(0, need / a), 0
            c, d, _ = arms(keep, tilt)
            aside = -w * tree["cog_side_m"]
            p = (need * d - c * aside) / (a * d - b * c)
            k = (a * aside - b * need) / (a * d - b * c)
            if p < 0:
                p, k = 0, aside / d
            if k < 0:
                p, k = max(0, need / a), 0
            return p, k

        p, k = solve(0)
        _, b, v = arms(pull, 0)
        side = w * tree["cog_side_m"] + p * b
        down = max(0, -v[2]) * p
        if keep:
            _, d, v2 = arms(keep, 0)
            side += k * d
            down += max(0, -v2[2]) * k
        forward = tree["cog_forward_m"] > 0
        balance = 0 if forward else math.degrees(math.atan(-tree["cog_forward_m"] / tree["cog_height_m"]))
        expect = {
            "pull_kn": p, "retainer_kn": k, "tips_alone": w * tree["cog_forward_m"] >= bend, "balance_deg": balance, "added_stem_kn": down,
            "hinge": {"bending_knm": bend, "side_knm": side},
            "curve": [{"tilt_deg": balance * i / 40, "pull_kn": 0 if forward else solve(math.radians(balance * i / 40))[0]} for i in range(41)],
        }
        if side_cap:
            expect["hinge"].update(side_capacity_knm=side_cap, side_use_pct=100 * abs(side) / side_cap)
        if wedge:
            lift = 0 if forward else wedge["distance_m"] * -tree["cog_forward_m"] / tree["cog_height_m"]
            force = 0 if forward else request["margin"] * (bend - w * tree["cog_forward_m"]) / wedge["distance_m"]
            expect["wedge"] = {"force_kn": force, "lift_m": lift}
        case("fell", request, expect)


def push():
    for n in range(8):
        tree = {"mass_kg": u(300, 4000), "cog_height_m": u(3, 9), "cog_forward_m": u(-0.8, 0.3)}
        hinge = {"width_m": u(0.2, 0.7), "thickness_m": u(0.02, 0.07), "strength_mpa": u(30, 70)}
        high, margin, limit = u(1.5, 5), u(1, 1.6), u(5, 60)
        w = tree["mass_kg"] * G / 1000
        bend = 1000 * hinge["strength_mpa"] * hinge["width_m"] * hinge["thickness_m"] ** 2 / 4

        def force(t):
            return max(0, margin * (bend - w * (tree["cog_forward_m"] * math.cos(t) + tree["cog_height_m"] * math.sin(t))) / (high * math.cos(t)))

        beta = max(0, math.atan(-tree["cog_forward_m"] / tree["cog_height_m"]))
        case("push", {"tree": tree, "hinge": hinge, "height_m": high, "margin": margin, "limit_kn": limit}, {
            "push_kn": force(0), "tips_alone": w * tree["cog_forward_m"] >= bend, "balance_deg": math.degrees(beta), "follow_m": high * math.sin(beta),
            "use_pct": 100 * force(0) / limit, "shear_kn": force(0),
            "curve": [{"tilt_deg": math.degrees(beta) * i / 40, "pull_kn": force(beta * i / 40)} for i in range(41)],
        })


def midline():
    for n in range(8):
        h, d, za = u(7, 13), u(10, 24), u(-1, 2)
        long = math.hypot(d, za - h) * u(1.005, 1.06, 4)
        kg = u(30, 400)
        request = {"attach_height_m": h, "anchor_distance_m": d, "anchor_height_m": za, "line_length_m": long, "weight_kg": kg, "ground_m": -20, "until_deg": u(5, 30)}
        w = kg * G / 1000
        curve = []
        for i in range(41):
            t = math.radians(request["until_deg"]) * i / 40
            a = (h * math.sin(t), h * math.cos(t))
            b = (d, za)
            half = long / 2
            # The lower place that is half a line from both ends, by turning square to the way.
            mid = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
            way = (b[0] - a[0], b[1] - a[1])
            n2 = math.hypot(*way)
            bow = math.sqrt(half * half - n2 * n2 / 4)
            square = (way[1] / n2, -way[0] / n2)
            if square[1] > 0:
                square = (-square[0], -square[1])
            p = (mid[0] + bow * square[0], mid[1] + bow * square[1])
            e1, e2 = ((a[0] - p[0]) / half, (a[1] - p[1]) / half), ((b[0] - p[0]) / half, (b[1] - p[1]) / half)
            det = e1[0] * e2[1] - e2[0] * e1[1]
            t1, t2, z = -e2[0] * w / det, e1[0] * w / det, p[1]
            pull = (-e1[0] * t1, -e1[1] * t1)
            if t1 < 0:
                t1, t2, z, pull = 0, w, za - half, (0, 0)
            elif t2 < 0:
                t1, t2, z, pull = w, 0, a[1] - half, (0, -w)
            curve.append({"tilt_deg": math.degrees(t), "pull_kn": t1, "anchor_kn": t2, "weight_at_m": z, "moment_knm": a[1] * pull[0] - a[0] * pull[1]})
        case("midline-weight", request, {"curve": curve, "ground_tilt_deg": None}, 1e-5)


def two_line():
    for n in range(10):
        a, b = {"x": u(-5, 5), "y": u(-5, 5), "z": u(8, 20)}, {"x": u(8, 15), "y": u(-5, 5), "z": u(8, 20)}
        kg, r = u(30, 600), u(0.7, 1)
        z = min(a["z"], b["z"]) - u(1, 6)
        w = kg * G / 1000
        apart = math.hypot(b["x"] - a["x"], b["y"] - a["y"])
        way, steep = [], None
        for i in range(41):
            x = apart * i / 40
            e1, e2 = unit((-x, a["z"] - z)), unit((apart - x, b["z"] - z))
            det = e1[0] * e2[1] - e2[0] * e1[1]
            t1, t2 = -e2[0] * w / det, e1[0] * w / det
            row = {
                "share_pct": 100 * i / 40, "a_kn": t1, "b_kn": t2, "angle_a_deg": math.degrees(math.atan2(e1[1], -e1[0])), "angle_b_deg": math.degrees(math.atan2(e2[1], e2[0])),
                "anchor_a_kn": math.hypot(t1 * e1[0], t1 * e1[1] + t1 * r), "anchor_b_kn": math.hypot(t2 * e2[0], t2 * e2[1] + t2 / r),
                "at": {"x": a["x"] + (b["x"] - a["x"]) * i / 40, "y": a["y"] + (b["y"] - a["y"]) * i / 40, "z": z},
            }
            way.append(row)
            if steep is None or max(t1, t2) > max(steep["a_kn"], steep["b_kn"]) * (1 + 1e-12):
                steep = row
        expect = {"way": way, "max_a_kn": max(c["a_kn"] for c in way), "max_b_kn": max(c["b_kn"] for c in way)}
        if max(steep["a_kn"], steep["b_kn"]) > w * (1 + 1e-6):  # else both ends are as steep
            expect["steepest"] = {"share_pct": steep["share_pct"]}
        case("two-line", {"a": a, "b": b, "mass_kg": kg, "piece_z": z, "efficiency": r}, expect)
    for n in range(4):
        a, b = {"x": 0, "y": 0, "z": u(8, 14)}, {"x": u(5, 12), "y": u(-3, 3), "z": u(8, 14)}
        straight = math.dist((a["x"], a["y"], a["z"]), (b["x"], b["y"], b["z"]))
        rope, kg = straight * u(1.05, 1.5), u(30, 500)
        apart = math.hypot(b["x"], b["y"])
        # Where a pulley on the rope rests: the lowest place of the ellipse, by looking.
        best = None
        low, high = 0.0, apart

        def depth(x):
            lo, hi = 0.0, rope
            for _ in range(80):
                d = (lo + hi) / 2
                if math.hypot(x, d) + math.hypot(apart - x, b["z"] - (a["z"] - d)) < rope:
                    lo = d
                else:
                    hi = d
            return lo

        for _ in range(120):
            m1, m2 = low + (high - low) / 3, high - (high - low) / 3
            if depth(m1) < depth(m2):
                low = m1
            else:
                high = m2
        x = (low + high) / 2
        d = depth(x)
        sin = d / math.hypot(x, d)
        case("two-line", {"a": a, "b": b, "mass_kg": kg, "arrangement": "one-rope", "rope_length_m": rope},
             {"max_a_kn": kg * G / 2000 / sin, "steepest": {"share_pct": 100 * x / apart, "at": {"z": a["z"] - d}}}, 1e-4)
    for n in range(2):
        kg, share, r = u(50, 300), u(50, 90), u(0.7, 1)
        w = kg * G / 1000
        case("two-line", {"a": {"x": 0, "y": 0, "z": 9}, "b": {"x": 0, "y": 0, "z": 9}, "mass_kg": kg, "arrangement": "twin", "share_pct": share, "efficiency": r},
             {"max_a_kn": w * share / 100, "max_b_kn": w * (1 - share / 100), "steepest": {"anchor_a_kn": w * (1 + r), "anchor_b_kn": 0}})


def line():
    for n in range(12):
        motion = ("lowering", "lifting", "still")[n % 3]
        points, z = [{"name": "piece", "x": u(-1, 1), "y": u(-1, 1), "z": u(2, 8)}], u(10, 16)
        for k in range(1 + n % 4):
            p = {"name": f"turn {k}", "x": u(-4, 6), "y": u(-4, 4), "z": z}
            z -= u(0.5, 3)
            if (n + k) % 2:
                p["friction"] = u(0.05, 0.5)
            else:
                p["efficiency"] = u(0.6, 1)
            points.append(p)
        points.append({"name": "device", "x": u(1, 3), "y": u(-1, 1), "z": 1, "wraps": u(0, 3), "friction": u(0.1, 0.4)})
        load = u(0.5, 12)
        tension, legs, turns = load, [], []
        at = [[p["x"], p["y"], p["z"]] for p in points]
        for i in range(len(points) - 1):
            legs.append({"from": points[i]["name"], "to": points[i + 1]["name"], "length_m": math.dist(at[i], at[i + 1]), "tension_kn": tension})
            if i + 2 > len(points) - 1:
                break
            back, on = unit([p - q for p, q in zip(at[i], at[i + 1])]), unit([p - q for p, q in zip(at[i + 2], at[i + 1])])
            theta = math.pi - math.acos(max(-1, min(1, dot(back, on))))
            p = points[i + 1]
            rho = 1 - (1 - p["efficiency"]) * math.sin(theta / 2) if "efficiency" in p else math.exp(-p["friction"] * theta)
            after = {"lowering": tension * rho, "lifting": tension / rho, "still": tension}[motion]
            force = [tension * x + after * y for x, y in zip(back, on)]
            size = math.sqrt(dot(force, force))
            turns.append({"name": p["name"], "contact_deg": math.degrees(theta), "ratio": rho, "resultant_kn": size, "factor": size / load, "direction": dict(zip("xyz", unit(force)))})
            tension = after
        grip = math.exp(2 * math.pi * points[-1]["friction"] * points[-1]["wraps"])
        case("line", {"load_kn": load, "motion": motion, "points": points},
             {"legs": legs, "points": turns, "device_kn": tension, "hand_kn": tension * grip if motion == "lifting" else tension / grip})


def wraps():
    for n in range(6):
        t, mu = u(1, 40), u(0.05, 0.5)
        if n % 2:
            hand = u(0.05, 0.6)
            case("wraps", {"line_kn": t, "hand_kn": hand, "friction": mu}, {"wraps": math.log(t / hand) / 2 / math.pi / mu, "angle_deg": math.log(t / hand) / mu * 180 / math.pi})
        else:
            turns = u(0, 5)
            drum, rope = {"length_m": u(0.05, 0.3), "diameter_m": u(0.05, 0.3)}, u(8, 22)
            hand = t * math.exp(-2 * math.pi * mu * turns)
            case("wraps", {"line_kn": t, "wraps": turns, "friction": mu, "drum": drum, "rope_mm": rope},
                 {"hand_kn": hand, "ratio": hand / t, "wraps_fit": math.floor(drum["length_m"] / (1.05 * rope / 1000)), "bend_ratio": drum["diameter_m"] / rope * 1000})


def vector():
    for n in range(6):
        span, t0, ea, f = u(5, 60), u(0.1, 8), u(100, 3000), u(0.05, 1)
        loose = span / (1 + t0 / ea)
        low, high = 0.0, span
        for _ in range(200):
            d = (low + high) / 2
            half = math.hypot(span / 2, d)
            if 2 * ea * (2 * half / loose - 1) * d / half < f:
                low = d
            else:
                high = d
        half = math.hypot(span / 2, d)
        t = ea * (2 * half / loose - 1)
        case("vector", {"span_m": span, "pretension_kn": t0, "stiffness_kn": ea, "side_force_kn": f},
             {"deflection_m": d, "tension_kn": t, "gain_kn": t - t0, "advantage": (t - t0) / f, "angle_deg": math.degrees(math.atan2(d, span / 2))}, 1e-5)


def drag():
    for n in range(8):
        kg, mu, slope = u(50, 3000), u(0.2, 1), u(-5, 25)
        w, s = kg * G / 1000, math.radians(slope)
        if n % 2:
            angle = u(-10, 35)
            a = math.radians(angle)
            t = max(0, w * (mu * math.cos(s) + math.sin(s)) / (math.cos(a) + mu * math.sin(a)))
            ground = w * math.cos(s) - t * math.sin(a)
            case("drag", {"mass_kg": kg, "friction": mu, "slope_deg": slope, "line_angle_deg": angle}, {"pull_kn": t, "ground_kn": ground, "friction_kn": mu * ground})
            continue
        long = u(3, 10)
        cog, lift = long * u(0.4, 0.6), u(0.3, 1.5)
        pitch = math.asin(lift / long)
        low, high = pitch, math.pi / 2
        for _ in range(200):
            a = (low + high) / 2
            t = w * (mu * math.cos(s) + math.sin(s)) / (math.cos(a) + mu * math.sin(a))
            # Moments about the rear end: the line at the front end against the weight.
            if t * long * math.sin(a - pitch) < w * cog * math.cos(s + pitch):
                low = a
            else:
                high = a
        case("drag", {"mass_kg": kg, "friction": mu, "slope_deg": slope, "lifted": {"length_m": long, "cog_m": cog, "lift_height_m": lift}},
             {"pull_kn": t, "ground_kn": w * math.cos(s) - t * math.sin(a), "line_angle_deg": math.degrees(a), "pitch_deg": math.degrees(pitch)}, 1e-5)


HITCH = {"vertical": 1, "choker": 0.8, "basket": 2}


def choke(deg):
    return 1 if deg > 120 else 0.87 if deg >= 90 else 0.74 if deg >= 60 else 0.62 if deg >= 30 else 0.49


def pick():
    for n in range(14):
        length = u(3, 14)
        cog = length * u(0.35, 0.6)
        kg = u(100, 3000)
        mass = {"low": kg * 0.8, "likely": kg, "high": kg * 1.3}
        s1, s2 = cog - u(0.5, 0.9) * cog * 0.9, cog + u(0.4, 0.9) * (length - cog) * 0.9
        gap = s2 - s1
        l1, l2 = gap * u(0.7, 1.6), gap * u(0.7, 1.6)
        if l1 + l2 < gap * 1.1 or abs(l1 - l2) > 0.7 * gap:
            continue
        slings = []
        for name, at, l in (("a", s1, l1), ("b", s2, l2)):
            hitch = R.choice(list(HITCH))
            one = {"name": name, "at_m": at, "length_m": l, "wll_kn": u(5, 60), "hitch": hitch}
            if hitch == "choker" and n % 2:
                one["choke_deg"] = R.choice([10, 45, 75, 100, 119, 121, 150])
            slings.append(one)
        x = ((l1 * l1 - l2 * l2) / gap + s1 + s2) / 2
        y = math.sqrt(l1 * l1 - (x - s1) ** 2)
        down = unit((cog - x, -y))
        w = mass["high"] * G / 1000
        e1, e2 = ((x - s1) / l1, y / l1), ((x - s2) / l2, y / l2)
        det = e1[0] * e2[1] - e2[0] * e1[1]
        f = (-down[0] * w, -down[1] * w)
        t = [(f[0] * e2[1] - e2[0] * f[1]) / det, (e1[0] * f[1] - f[0] * e1[1]) / det]
        if min(t) < 0:
            continue
        chart = [{"radius_m": r, "boom_m": b, "capacity_kg": round(60000 / r / (1 + b / 60))} for b in (18, 26, 34) for r in (4, 6, 9, 13, 17) if r < b]
        radius, boom, rigging, use = u(4, 17), R.choice([18, 20, 26, 30, 34]), u(50, 400), u(50, 100)
        booms = [b for b in (18, 26, 34) if b >= boom]
        rows = sorted(r["radius_m"] for r in chart if r["boom_m"] == booms[0] and r["radius_m"] >= radius)
        capacity = next((r["capacity_kg"] for r in chart if rows and r["boom_m"] == booms[0] and r["radius_m"] == rows[0]), None)
        hook = {k: v + rigging for k, v in mass.items()}
        tilt = math.degrees(math.atan2(cog - x, y))
        expect = {
            "hook_kg": hook, "capacity_kg": capacity, "tilt_deg": tilt, "hook_over_m": x, "hook_height_m": y,
            "slings": [{
                "name": s["name"], "tension_kn": tt, "rating_kn": s["wll_kn"] * HITCH[s["hitch"]] * (choke(s["choke_deg"]) if "choke_deg" in s else 1),
                "use_pct": 100 * tt / (s["wll_kn"] * HITCH[s["hitch"]] * (choke(s["choke_deg"]) if "choke_deg" in s else 1)),
                "angle_deg": math.degrees(math.asin(y / s["length_m"])),
            } for s, tt in zip(slings, t)],
        }
        if capacity:
            expect["use_pct"] = 100 * hook["high"] / capacity
            expect["within"] = expect["use_pct"] <= use
        case("pick", {"mass_kg": mass, "piece": {"length_m": length, "cog_m": cog}, "slings": slings, "rigging_kg": rigging, "chart": chart, "radius_m": radius, "boom_m": boom, "chart_use_pct": use}, expect)


def swing():
    for n in range(8):
        pivot, tie = {"x": u(-2, 2), "y": u(-2, 2), "z": u(9, 15)}, {"x": u(2, 6), "y": u(-4, 4), "z": u(4, 8.9)}
        kg, reach = u(20, 300), u(0.2, 2)
        v = [tie[k] - pivot[k] for k in "xyz"]
        radius = math.sqrt(dot(v, v))
        start = math.acos(-v[2] / radius)
        w = kg * G / 1000
        level = math.hypot(v[0], v[1])
        box = {"name": "shed", "min": {"x": u(-9, -5), "y": u(-6, -2), "z": 0}, "max": {"x": u(-4, -1), "y": u(2, 6), "z": u(2, 5)}}
        near = math.inf
        for i in range(40001):
            t = start * (1 - i / 20000)
            p = (pivot["x"] + v[0] / level * radius * math.sin(t), pivot["y"] + v[1] / level * radius * math.sin(t), pivot["z"] - radius * math.cos(t))
            near = min(near, math.sqrt(sum(max(box["min"][k] - c, 0, c - box["max"][k]) ** 2 for k, c in zip("xyz", p))))
        # The ground is an obstacle too, and the nearer stands first.
        clear = sorted([(near - reach, "shed"), (pivot["z"] - radius - reach, "ground")])
        got = {
            "radius_m": radius, "start_deg": math.degrees(start), "speed_m_s": math.sqrt(2 * G * radius * (1 - math.cos(start))),
            "line_kn": w * (3 - 2 * math.cos(start)), "factor": 3 - 2 * math.cos(start), "lowest_m": pivot["z"] - radius - reach,
        }
        got["clearances"] = [{"name": name, "clearance_m": metres} for metres, name in clear]
        case("swing", {"pivot": pivot, "tie": tie, "mass_kg": kg, "reach_m": reach, "obstacles": [box]}, got, 1e-4)


for make in (fell, push, midline, two_line, line, wraps, vector, drag, pick, swing):
    make()
print(json.dumps(CASES))
