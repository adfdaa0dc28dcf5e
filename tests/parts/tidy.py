"""Lines as a drafting program writes them: straight ones and arcs as such, each stretch drawn once, and no hidden line
where a visible one is (ISO 128-2). Takes and gives what part_views tells of one view."""
import math

from ezdxf.math import BSpline

SAME = 1e-5  # mm
TURN = 2 * math.pi


def solved(rows, right):
    """Five equations for five unknowns, by elimination; None when they do not tell."""
    m = [list(r) + [b] for r, b in zip(rows, right)]
    n = len(m)
    for i in range(n):
        p = max(range(i, n), key=lambda k: abs(m[k][i]))
        if abs(m[p][i]) < 1e-12:
            return None
        m[i], m[p] = m[p], m[i]
        for k in range(n):
            if k != i:
                f = m[k][i] / m[i][i]
                m[k] = [a - f * b for a, b in zip(m[k], m[i])]
    return [m[i][n] / m[i][i] for i in range(n)]


def whole_circle(points):
    """The circle that fits a ring of places best (Kasa): its centre and radius."""
    rows, right = [[0.0] * 3 for _ in range(3)], [0.0] * 3
    for x, y in points:
        for i, p in enumerate((x, y, 1)):
            right[i] -= p * (x * x + y * y)
            for k, q in enumerate((x, y, 1)):
                rows[i][k] += p * q
    d, e, f = solved(rows, right)
    return -d / 2, -e / 2, math.sqrt(d * d / 4 + e * e / 4 - f)


def plain(c):
    """The line or arc that a free-form curve follows; the curve itself where there is none, None without length."""
    if c["kind"] == "ellipse" and abs(c["ratio"] - 1) < 1e-9:
        return dict(c, kind="arc", radius=math.hypot(*c["major"]))
    if c["kind"] != "spline":
        return c
    degree_1 = c["degree"] == 1
    points = c["poles"] if degree_1 else [(p.x, p.y) for p in BSpline(
        [(*q, 0) for q in c["poles"]], order=c["degree"] + 1, knots=c["knots"], weights=c["weights"]).approximate(24)]
    (x0, y0), (x1, y1) = min(points), max(points)
    l = math.hypot(x1 - x0, y1 - y0)
    if l < SAME:
        return None
    if all(abs((x1 - x0) * (q[1] - y0) - (y1 - y0) * (q[0] - x0)) / l < SAME for q in points):
        return {"kind": "line", "from": [x0, y0], "to": [x1, y1]}
    if math.hypot(points[0][0] - points[-1][0], points[0][1] - points[-1][1]) < SAME and len(points) > 12:
        cx, cy, r = whole_circle(points)
        if all(abs(math.hypot(q[0] - cx, q[1] - cy) - r) < 20 * SAME for q in points):
            # Chords of a circle lie within it; parts have their sizes in quarters.
            r = round(4 * r) / 4 if abs(round(4 * r) / 4 - r) < 2e-3 else r
            turned = points[len(points) // 2]
            return {"kind": "circle", "centre": [cx, cy], "radius": r, "from": list(points[0]), "to": list(points[0]),
                    "middle": list(turned), "turns_left": True}
    a, b, m = points[0], points[-1], points[len(points) // 2]
    d = 2 * ((m[0] - a[0]) * (b[1] - a[1]) - (m[1] - a[1]) * (b[0] - a[0]))
    if abs(d) < 1e-9:
        return c
    bb, mm = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2, (m[0] - a[0]) ** 2 + (m[1] - a[1]) ** 2
    centre = [a[0] + (mm * (b[1] - a[1]) - bb * (m[1] - a[1])) / d, a[1] + (bb * (m[0] - a[0]) - mm * (b[0] - a[0])) / d]
    r = math.hypot(a[0] - centre[0], a[1] - centre[1])
    if len(points) < 8 or math.hypot(b[0] - a[0], b[1] - a[1]) < 1 or r > 1e4 or any(abs(math.hypot(q[0] - centre[0], q[1] - centre[1]) - r) > SAME for q in points):
        return c
    return {"kind": "arc", "centre": centre, "radius": r, "from": list(a), "to": list(b), "middle": list(m), "turns_left": d > 0}


def oval(points):
    """The ellipse that a chain runs along: its centre, major axis, ratio, and the angles at which it passes them."""
    if len(points) < 6:
        return None
    mx, my = sum(q[0] for q in points) / len(points), sum(q[1] for q in points) / len(points)
    size = max(max(abs(q[0] - mx), abs(q[1] - my)) for q in points)
    p = [((q[0] - mx) / size, (q[1] - my) / size) for q in points]
    rows = [(x * x, x * y, y * y, x, y) for x, y in p]
    normal = [[sum(r[i] * r[j] for r in rows) for j in range(5)] for i in range(5)]
    k = solved(normal, [sum(r[i] for r in rows) for i in range(5)])
    if not k or 4 * k[0] * k[2] - k[1] * k[1] < 1e-9:
        return None
    d = 4 * k[0] * k[2] - k[1] * k[1]
    cx, cy = (k[1] * k[4] - 2 * k[2] * k[3]) / d, (k[1] * k[3] - 2 * k[0] * k[4]) / d
    level = 1 + k[0] * cx * cx + k[1] * cx * cy + k[2] * cy * cy
    turn = 0.5 * math.atan2(k[1], k[0] - k[2])
    c, w = math.cos(turn), math.sin(turn)
    lengths = [k[0] * c * c + k[1] * c * w + k[2] * w * w, k[0] * w * w - k[1] * c * w + k[2] * c * c]
    if min(lengths) <= 0 or level <= 0:
        return None
    a, b = (size * math.sqrt(level / v) for v in lengths)
    if a < b:
        a, b, c, w = b, a, -w, c
    cx, cy = mx + size * cx, my + size * cy
    angles = []
    for x, y in points:
        u, v = (c * (x - cx) + w * (y - cy)) / a, (-w * (x - cx) + c * (y - cy)) / b
        if abs(math.hypot(u, v) - 1) * b > SAME:
            return None
        t = math.atan2(v, u)
        if angles:
            t += TURN * round((angles[-1] - t) / TURN)
        angles.append(t)
    return (cx, cy), (a * c, a * w), b / a, angles


def oval_of(c):
    if c["kind"] == "ellipse":
        sign = 1 if c["turns_left"] else -1
        return c["centre"], c["major"], c["ratio"], (sign * c["start"], sign * c["end"])
    return oval(c["poles"]) if c["kind"] == "spline" and c["degree"] == 1 else None


def carriers(lines):
    """Stretches by the straight line or circle that they lie on, and the rest."""
    straight, round_, ovals, rest = [], [], [], []
    for c in filter(None, map(plain, lines)):
        if c["kind"] == "line":
            (x0, y0), (x1, y1) = c["from"], c["to"]
            l = math.hypot(x1 - x0, y1 - y0)
            u = ((x1 - x0) / l, (y1 - y0) / l)
            if u[0] < -1e-9 or (abs(u[0]) <= 1e-9 and u[1] < 0):
                u = (-u[0], -u[1])
            off = u[0] * y0 - u[1] * x0
            span = sorted((u[0] * x + u[1] * y for x, y in (c["from"], c["to"])))
            for k in straight:
                if abs(k[0][0] * u[1] - k[0][1] * u[0]) < 1e-7 and abs(k[1] - off) < SAME:
                    k[2].append(span)
                    break
            else:
                straight.append((u, off, [span]))
        elif c["kind"] in ("arc", "circle"):
            x, y = c["centre"]
            if c["kind"] == "circle":
                span = [0, TURN]
            else:
                a, b = (math.atan2(q[1] - y, q[0] - x) for q in (c["from"], c["to"]))
                if not c["turns_left"]:
                    a, b = b, a
                a %= TURN
                span = [a, a + (b - a) % TURN]
            for k in round_:
                if math.hypot(k[0][0] - x, k[0][1] - y) < SAME and abs(k[1] - c["radius"]) < SAME:
                    k[2].append(span)
                    break
            else:
                round_.append(((x, y), c["radius"], [span]))
        elif found := oval_of(c):
            centre, major, ratio, angles = found
            a, b = min(angles[0], angles[-1]), max(angles[0], angles[-1])
            for k in ovals:
                same = math.hypot(k[0][0] - centre[0], k[0][1] - centre[1]) < SAME and abs(k[2] - ratio) < SAME
                if same and abs(abs(k[1][0] * major[0] + k[1][1] * major[1]) / (k[1][0] ** 2 + k[1][1] ** 2) - 1) < SAME:
                    if k[1][0] * major[0] + k[1][1] * major[1] < 0:
                        a, b = a + math.pi, b + math.pi
                    k[3].append([a % TURN, a % TURN + b - a])
                    break
            else:
                ovals.append((centre, major, ratio, [[a % TURN, a % TURN + b - a]]))
        else:
            rest.append(c)
    return straight, round_, ovals, rest


def union(spans, same):
    r = []
    for a, b in sorted(spans):
        if r and a <= r[-1][1] + same:
            r[-1][1] = max(r[-1][1], b)
        else:
            r.append([a, b])
    return r


def ring(spans, same):
    """A union of angles: whole turns are one, and what runs over the start of the turn is not cut there."""
    flat = []
    for a, b in spans:
        flat += [[a, b]] if b <= TURN else [[a, TURN], [0, b - TURN]]
    r = union(flat, same)
    if len(r) == 1 and r[0][1] - r[0][0] > TURN - same:
        return [[0, TURN]]
    if len(r) > 1 and r[0][0] < same and r[-1][1] > TURN - same:
        r[-1][1] = TURN + r.pop(0)[1]
    return r


def without(spans, taken, same):
    r = []
    for a, b in spans:
        for c, d in sorted(taken):
            if d <= a or c >= b:
                continue
            if c - a > same:
                r.append([a, c])
            a = max(a, d)
        if b - a > same:
            r.append([a, b])
    return r


def drawn(straight, round_, ovals, rest):
    r = list(rest)
    for (x, y), (mx, my), ratio, spans in ovals:
        for a, b in spans:
            p, q, m = ([x + mx * math.cos(t) - my * ratio * math.sin(t), y + my * math.cos(t) + mx * ratio * math.sin(t)] for t in (a, b, (a + b) / 2))
            r.append({"kind": "ellipse", "centre": [x, y], "major": [mx, my], "ratio": ratio, "start": a, "end": b, "from": p, "to": q, "middle": m, "turns_left": True})
    for u, off, spans in straight:
        for a, b in spans:
            p, q = ([u[0] * t - u[1] * off, u[1] * t + u[0] * off] for t in (a, b))
            r.append({"kind": "line", "from": p, "to": q, "middle": [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]})
    for (x, y), radius, spans in round_:
        for a, b in spans:
            p, q, m = ([x + radius * math.cos(t), y + radius * math.sin(t)] for t in (a, b, (a + b) / 2))
            r.append({"kind": "circle" if b - a > TURN - 1e-9 else "arc", "centre": [x, y], "radius": radius, "from": p, "to": q, "middle": m, "turns_left": True})
    return r


def places(c, n):
    """Places along a curve."""
    if c["kind"] == "line":
        (x0, y0), (x1, y1) = c["from"], c["to"]
        return [(x0 + (x1 - x0) * t / n, y0 + (y1 - y0) * t / n) for t in range(n + 1)]
    if c["kind"] in ("arc", "circle"):
        x, y = c["centre"]
        a, b = (math.atan2(q[1] - y, q[0] - x) for q in (c["from"], c["to"]))
        a, b = (a, b) if c["turns_left"] else (b, a)
        sweep = TURN if c["kind"] == "circle" else (b - a) % TURN
        return [(x + c["radius"] * math.cos(a + sweep * t / n), y + c["radius"] * math.sin(a + sweep * t / n)) for t in range(n + 1)]
    if c["kind"] == "spline":
        if c["degree"] == 1:
            return c["poles"]
        return [(p.x, p.y) for p in BSpline([(*q, 0) for q in c["poles"]], order=c["degree"] + 1, knots=c["knots"],
                                            weights=c["weights"]).approximate(n)]
    return [c["from"], c["middle"], c["to"]]


def along(c):
    q = places(c, 16)
    return sum(math.hypot(b[0] - a[0], b[1] - a[1]) for a, b in zip(q, q[1:]))


def over(points, chain):
    """Whether all of the points lie on a chain."""
    def near(p):
        for (x0, y0), (x1, y1) in zip(chain, chain[1:]):
            dx, dy = x1 - x0, y1 - y0
            l = dx * dx + dy * dy
            t = 0 if l == 0 else min(1, max(0, ((p[0] - x0) * dx + (p[1] - y0) * dy) / l))
            if math.hypot(p[0] - x0 - t * dx, p[1] - y0 - t * dy) < 1e-3:
                return True
        return False
    return all(near(p) for p in points)


def once(curves, others):
    """Free-form curves, and scraps, that run over none of the longer ones nor of the others: curves in which faces meet
    come twice where what is in front hides the like behind it, the second time in shreds."""
    kept, chains = [], [places(c, 400) for c in others]
    for c in sorted(curves, key=along, reverse=True):
        scrap = c["kind"] in ("spline", "arc") or along(c) < 1
        if scrap and (along(c) < 2e-3 or any(over(places(c, 12), k) for k in chains)):
            continue
        kept.append(c)
        chains.append(places(c, 400))
    return kept


def beside(spans, taken, same):
    """Angles without others."""
    flat = [[t for a, b in k for t in ([[a, b]] if b <= TURN else [[a, TURN], [0, b - TURN]])] for k in (ring(spans, same), sum(taken, []))]
    return ring(without(flat[0], union(flat[1], same), same), same)


def tidied(view):
    seen, hidden = carriers(view["visible"]), carriers(view["hidden"])
    seen = ([(u, o, union(s, SAME)) for u, o, s in seen[0]], [(c, r, ring(s, SAME / r)) for c, r, s in seen[1]],
            [(c, m, k, ring(s, SAME / math.hypot(*m))) for c, m, k, s in seen[2]], seen[3])
    straight, round_, ovals = [], [], []
    for u, o, s in hidden[0]:
        over = [k[2] for k in seen[0] if abs(k[0][0] * u[1] - k[0][1] * u[0]) < 1e-7 and abs(k[1] - o) < SAME]
        straight.append((u, o, without(union(s, SAME), sum(over, []), SAME)))
    for c, r, s in hidden[1]:
        over = [k[2] for k in seen[1] if math.hypot(k[0][0] - c[0], k[0][1] - c[1]) < SAME and abs(k[1] - r) < SAME]
        round_.append((c, r, beside(s, over, SAME / r)))
    for c, m, k, s in hidden[2]:
        over = [o[3] for o in seen[2] if math.hypot(o[0][0] - c[0], o[0][1] - c[1]) < SAME and abs(o[2] - k) < SAME and
                math.hypot(o[1][0] - m[0], o[1][1] - m[1]) < SAME]
        ovals.append((c, m, k, beside(s, over, SAME / math.hypot(*m))))
    visible = once(drawn(*seen), [])
    return dict(view, visible=visible, hidden=once(drawn(straight, round_, ovals, hidden[3]), visible))
