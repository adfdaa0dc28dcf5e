"""Random parts of mechanical drawings, as lists of plain operations (part_views.cpp makes the solid)."""
import math


class Part:
    """A part in the making: operations, the views that it wants, and what is cut."""

    def __init__(self, rng):
        self.rng, self.ops, self.views, self.section, self.hidden = rng, [], ["front", "top", "side"], None, True
        self.face = None  # the outward normal of a slanted face, in x and z, that an auxiliary view looks at

    def add(self, text):
        self.ops.append(text)

    def n(self, lo, hi, step=0.5):
        return lo + step * self.rng.randint(0, int((hi - lo) / step))

    def chance(self, p):
        return self.rng.random() < p


def path(points):
    """m and l operations of a polygon; a point of four numbers is an arc by its middle."""
    words = ["m %.9g %.9g" % points[0]]
    for q in points[1:]:
        words.append(("l %.9g %.9g" if len(q) == 2 else "t %.9g %.9g %.9g %.9g") % q)
    return " ".join(words)


def hole(p, axis, x, y, z, r, depth, kind, sign=-1):
    """A hole that begins at (x, y, z) and goes against the axis; sign -1 for holes from the top."""
    at = {"x": 0, "y": 1, "z": 2}[axis]

    def cyl(r, l, from_=0.0):
        c = [x, y, z]
        c[at] += -(from_ + l) if sign < 0 else from_
        p.add("- cyl %s %.9g %.9g %.9g %.9g %.9g" % (axis, *c, r, l))

    def cone(r0, r1, l, from_=0.0):
        c = [x, y, z]
        c[at] += -(from_ + l) if sign < 0 else from_
        lo, hi = (r1, r0) if sign < 0 else (r0, r1)
        p.add("- cone %s %.9g %.9g %.9g %.9g %.9g %.9g" % (axis, *c, lo, hi, l))

    cyl(r, depth)
    if kind == "counterbore":
        cyl(r * 1.75, min(depth * 0.4, r * 1.2))
    elif kind == "countersink":
        cone(r * 1.9, r, r * 0.9)
    elif kind == "drill":
        cone(r, 0, r / math.tan(math.radians(59)), depth)


def steps(p):
    l, w, h = p.n(60, 130), p.n(35, 80), p.n(35, 70)
    l1, h1 = p.n(20, l - 20), p.n(12, h - 12)
    p.add("+ prism y 0 %g : " % w + path([(0, 0), (l, 0), (l, h1), (l1, h1), (l1, h), (0, h)]))
    if p.chance(0.6):
        s, d = p.n(8, 18), p.n(5, 12)
        y = p.n(8, w - s - 8)
        p.add("- box -1 %g %g %g %g %g" % (y, h - d, l1 + 2, s, d + 1))
    if p.chance(0.6):
        p.add("- box %g -1 -1 %g %g %g" % (p.n(l * 0.6, l * 0.7), p.n(8, 15), w + 2, p.n(4, 8) + 1))
    for _ in range(p.rng.randint(0, 2)):
        r = p.n(3, 6)
        p.add("- cyl z %g %g -1 %g %g" % (p.n(l1 + r + 3, l - r - 3) if l - l1 > 2 * r + 8 else l1 / 2, p.n(10, w - 10), r, h + 2))
    if p.chance(0.4):
        p.add("- prism y -1 %g : " % (w + 2) + path([(l + 1, h1 - 8), (l + 1, h1 + 1), (l - 8, h1 + 1)]))


def holes(p):
    l, w, h = p.n(70, 140), p.n(50, 90), p.n(14, 30)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    if p.chance(0.5):
        p.add("+ cyl z %g %g %g %g %g" % (l / 2, w / 2, h, p.n(12, w / 2 - 8), p.n(8, 20)))
        p.add("- cyl z %g %g -1 %g 100" % (l / 2, w / 2, p.n(4, 9)))
    r = p.n(2.5, 4.5)
    kind = p.rng.choice(["plain", "counterbore", "countersink", "drill", "blind"])
    m = 2 * r + 4
    for x in (m, l - m):
        for y in (m, w - m):
            depth = p.n(6, h - 5) if x == m else h * 0.5
            hole(p, "z", x, y, h, r, depth if kind in ("drill", "blind") else h, kind)
    if p.chance(0.4):
        hole(p, "y", l / 2 + p.n(-8, 8), 0, h / 2, p.n(2, h / 2 - 3), p.n(6, 9), p.rng.choice(["drill", "blind"]), 1)


def turned(p):
    """A stepped shaft along x with what is cut into it. Where it is not drawn from above, keyways face the front."""
    p.views = p.rng.choice([["front", "side"], ["front", "top", "side"]])
    above = "top" in p.views
    x, profile, cyls = 0.0, [(0, 0)], []
    r = p.n(10, 16)
    for i in range(p.rng.randint(2, 4)):
        l = p.n(18, 40)
        cyls.append((x, x + l, r))
        taper = p.chance(0.2)
        r1 = r + p.n(2, 5) if taper else r
        profile += [(x, r), (x + l, r1)]
        x, r = x + l, max(8, r1 + p.rng.choice([-6, -4, 4, 6, 8]))
        if taper:
            cyls.pop()
    c = p.rng.choice([0, 1, 1.5])
    end_r = profile[-1][1]
    if c:
        profile[1:2] = [(0, profile[1][1] - c), (c, profile[1][1])]
        profile[-1:] = [(x - c, end_r), (x, end_r - c)]
    profile.append((x, 0))
    p.add("+ rev x 0 0 0 : " + path(profile))
    for a, b, r in cyls:
        what = p.rng.choice(["key", "flat", "cross", "none", "none"])
        if b - a < 16 or what == "none":
            continue
        m = (a + b) / 2
        if what == "key":
            k, e = p.n(2, 3.5), p.n(5, (b - a) / 2 - 3)
            bottom = r - p.n(2, 4)
            p.add(("- prism z %g 50 : " % bottom if above else "- prism y %g 50 : " % (-bottom - 50)) + path([(m - e + k, -k), (m + e - k, -k), (m + e, 0, m + e - k, k), (m - e + k, k), (m - e, 0, m - e + k, -k)]))
        elif what == "flat":
            e, d = p.n(4, (b - a) / 2 - 3), p.n(1, 3)
            for s in p.rng.choice([(1,), (1, -1)]):
                p.add("- box %g -60 %g %g 120 60" % (m - e, r - d if s > 0 else -(r - d) - 60, 2 * e))
        else:
            p.add(("- cyl z %g 0 -60 %g 120" if p.chance(0.6) else "- cyl y %g -60 0 %g 120") % (m, p.n(2, r / 3)))
    if p.chance(0.5):
        r0 = min(c[2] for c in cyls) if cyls else 8
        hole(p, "x", 0, 0, 0, p.n(3, max(3.5, r0 * 0.45)), p.n(10, 18) if p.chance(0.5) else x + 1, p.rng.choice(["plain", "counterbore"]), 1)


def ribs(p):
    kind = p.rng.choice(["pedestal", "angle", "boss"])
    if kind == "pedestal":
        l, w, t = p.n(90, 140), p.n(45, 70), p.n(9, 14)
        z, r, plate = p.n(60, 85), p.n(15, 24), p.n(9, 14)
        p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
        c, a = l / 2, p.n(20, 34)
        # flanks of the plate touch the barrel
        dx, dz = a, z - t
        ang = math.atan2(-dz, dx) + math.acos(r / math.hypot(dx, dz))
        tx, tz = c + r * math.cos(ang), z + r * math.sin(ang)
        p.add("+ prism y %g %g : " % (w - plate, plate) + path([(c - a, t), (c + a, t), (tx, tz), (c, z), (2 * c - tx, tz)]))
        p.add("+ cyl y %g %g %g %g %g" % (c, w * 0.35, z, r, w * 0.65))
        if p.chance(0.7):
            rib = p.n(6, 10)
            p.add("+ prism x %g %g : " % (c - rib / 2, rib) + path([(w - plate, t), (4, t), (w * 0.35 + 4, z), (w - plate, z)]))
        p.add("- cyl y %g -1 %g %g %g" % (c, z, r * 0.55, w + 2))
    elif kind == "angle":
        l, w, h, t = p.n(60, 100), p.n(50, 80), p.n(50, 90), p.n(8, 14)
        p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
        p.add("+ box 0 0 0 %g %g %g" % (t, w, h))
        rib = p.n(6, 12)
        y = (w - rib) / 2 if p.chance(0.6) else p.n(5, w - rib - 5)
        foot, top = p.n(t + 15, l - 6), p.n(t + 15, h - 6)
        p.add("+ prism y %g %g : " % (y, rib) + path([(t, t), (foot, t), (t, top)]))
        for yy in (w * 0.2, w * 0.8):
            p.add("- cyl z %g %g -1 %g %g" % (l - 12, yy, p.n(3, 5), t + 2))
    else:
        l, t, r, h = p.n(90, 130), p.n(9, 14), p.n(14, 22), p.n(30, 55)
        c = l / 2
        p.add("+ box 0 0 0 %g %g %g" % (l, l, t))
        p.add("+ cyl z %g %g %g %g %g" % (c, c, t, r, h))
        rib, reach = p.n(6, 10), p.n(r + 10, c - 5)
        for s in p.rng.choice([(1, -1), (1,)]):
            a, b = c + s * r * 0.5, c + s * reach
            p.add("+ prism y %g %g : " % (c - rib / 2, rib) + path([(a, t), (b, t), (c + s * r, t + h * 0.8), (a, t + h * 0.8)]))
        if p.chance(0.5):
            for s in (1, -1):
                a, b = c + s * r * 0.5, c + s * reach
                p.add("+ prism x %g %g : " % (c - rib / 2, rib) + path([(a, t), (b, t), (c + s * r, t + h * 0.8), (a, t + h * 0.8)]))
        p.add("- cyl z %g %g -1 %g 200" % (c, c, p.n(6, r - 5)))


def fillets(p):
    l, w, t, h, u = p.n(70, 120), p.n(45, 80), p.n(10, 16), p.n(50, 95), p.n(10, 15)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    p.add("+ box 0 0 0 %g %g %g" % (u, w, h))
    p.add("fillet %g : %g %g %g" % (p.n(5, 16), u, w / 2, t))
    r = p.n(6, 12)
    p.add("fillet %g : %g 0 %g , %g %g %g" % (r, l, t / 2, l, w, t / 2))
    if p.chance(0.5):
        p.add("fillet %g : %g 0 %g , %g %g %g" % (r, u / 2, h, u / 2, w, h))
    if p.chance(0.5):
        p.add("fillet %g : %g %g %g" % (p.n(2, 4), l, w / 2, t))
    for y in (w * 0.25, w * 0.75):
        p.add("- cyl z %g %g -1 %g %g" % (l - r - 8, y, p.n(3, 5.5), t + 2))


def oblique(p):
    l, w, h = p.n(60, 110), p.n(45, 80), p.n(40, 70)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    if p.chance(0.5):
        p.add("- box %g -1 %g %g %g %g" % (p.n(20, l * 0.5), h * 0.55, l, w + 2, h))
    for _ in range(p.rng.randint(1, 2)):
        a, b, c = p.n(12, l * 0.45), p.n(12, w * 0.45), p.n(12, h * 0.45)
        sx, sy = p.rng.choice([0, 1]), p.rng.choice([0, 1])
        n = ((1 if sx else -1) / a, (1 if sy else -1) / b, 1 / c)
        # the plane goes through the places a, b, c away from a corner at the top
        cx, cy = (l if sx else 0), (w if sy else 0)
        x = cx - (a if sx else -a)
        p.add("- half %.12g %.12g %.12g %.12g %.12g %.12g" % (x, cy, h, *n))
    if p.chance(0.5):
        p.add("- cyl z %g %g -1 %g 200" % (l / 2, w / 2, p.n(5, 9)))


def wedges(p):
    """Faces that slope along one axis, with slots and holes square to the axes."""
    l, w, h = p.n(60, 110), p.n(40, 70), p.n(35, 60)
    a, b = p.n(8, h - 15), p.n(l * 0.3, l - 15)
    p.add("+ prism y 0 %g : " % w + path([(0, 0), (l, 0), (l, a), (b, h), (0, h)]))
    if p.chance(0.6):
        s = p.n(8, 16)
        p.add("- box -1 %g %g %g %g 100" % ((w - s) / 2, p.n(a + 3, h - 4), l + 2, s))
    if p.chance(0.6):
        p.add("- cyl z %g %g -1 %g 200" % (p.n(12, b - 10), w / 2, p.n(4, 8)))
    if p.chance(0.5):
        p.add("- cyl y %g -1 %g %g 200" % (p.n(12, b - 12), a * 0.6, p.n(2.5, a * 0.35)))
    if p.chance(0.4):
        p.add("- prism z -1 200 : " + path([(-1, w + 1), (-1, w - 10), (10, w + 1)]))


def clevis(p):
    w, r, h, t = p.n(30, 50), p.n(14, 22), p.n(40, 70), p.n(8, 12)
    l = 2 * r + p.n(20, 40)
    c = r if p.chance(0.5) else l / 2
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    for y in (0, w - t):
        p.add("+ prism y %g %g : " % (y, t) + path([(c - r, t), (c + r, t), (c + r, h), (c, h + r, c - r, h)]))
    p.add("- cyl y %g -1 %g %g 200" % (c, h, p.n(5, r - 5)))
    if p.chance(0.6):
        for x in ((l - 8,) if c == r else (8, l - 8)):
            p.add("- cyl z %g %g -1 %g 60" % (x, w / 2, p.n(2.5, 4)))


def bosses(p):
    """A barrel with a boss across it, and bores in both."""
    r, l = p.n(18, 30), p.n(60, 100)
    p.add("+ cyl x 0 0 0 %g %g" % (r, l))
    if p.chance(0.6):
        p.add("+ cyl x 0 0 0 %g %g" % (r + p.n(6, 12), p.n(8, 14)))
    b = p.n(8, r - 4)
    x = p.n(25 + b, l - b - 5)
    p.add("+ cyl z %g 0 0 %g %g" % (x, b, r + p.n(8, 20)))
    p.add("- cyl x -1 0 0 %g 300" % p.n(6, r - 6))
    if p.chance(0.7):
        p.add("- cyl z %g 0 0 %g 300" % (x, p.n(3, b - 3)))
    if p.chance(0.3):
        p.add("+ box 5 %g %g %g %g 14" % (-r, -r - 12, l - 10, 2 * r))


def cones(p):
    l, w, t = p.n(70, 110), p.n(50, 80), p.n(10, 18)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    x, r0, r1, h = l / 2 + p.n(-8, 8), p.n(16, w / 2 - 4), p.n(8, 14), p.n(15, 40)
    p.add("+ cone z %g %g %g %g %g %g" % (x, w / 2, t, r0, r1, h))
    if p.chance(0.5):
        p.add("+ cyl z %g %g %g %g %g" % (x, w / 2, t + h, r1, p.n(5, 15)))
    p.add("- cyl z %g %g -1 %g 300" % (x, w / 2, p.n(3, r1 - 3)))
    if p.chance(0.5):
        p.add("- box -1 %g %g %g %g 100" % (w / 2 - 5, t - 5, p.n(8, x - r0 - 1) + 1 if x - r0 > 9 else 8, 10))


def sections(p):
    """A flanged housing whose front view is a section through its axis."""
    r, l = p.n(20, 34), p.n(45, 80)
    flange, t = r + p.n(14, 22), p.n(9, 14)
    p.add("+ cyl z 0 0 0 %g %g" % (flange, t))
    p.add("+ cyl z 0 0 0 %g %g" % (r, l))
    bore = p.n(8, r - 9)
    p.add("- cyl z 0 0 -1 %g 300" % bore)
    if p.chance(0.7):
        p.add("- cyl z 0 0 %g %g 300" % (l - p.n(8, 18), p.n(bore + 2, r - 4)))
    if p.chance(0.5):
        p.add("- cyl z 0 0 -1 %g %g" % (p.n(bore + 2, r - 3), p.n(5, t + 10)))
    n, pitch, size = p.rng.choice([4, 6, 8]), (r + flange) / 2, p.n(2.5, min(4.5, (flange - r) / 2 - 2))
    for i in range(n):
        a = 2 * math.pi * i / n
        p.add("- cyl z %.9g %.9g -1 %g %g" % (pitch * math.cos(a), pitch * math.sin(a), size, t + 2))
    p.views, p.section = ["front", "top"], ("front", 0.0)


def section_blocks(p):
    """A block with pockets and holes whose front view is a full section."""
    l, w, h = p.n(70, 120), p.n(40, 70), p.n(30, 55)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    y = w / 2
    p.add("- box %g %g %g %g %g 100" % (10, y - p.n(8, w / 2 - 8), p.n(8, h - 10), p.n(15, l * 0.35), p.n(16, w / 2)))
    r = p.n(5, 10)
    hole(p, "z", l * 0.72, y, h, r, h, p.rng.choice(["plain", "counterbore", "countersink"]))
    if p.chance(0.5):
        hole(p, "x", l, y, h / 2, p.n(2, 4), p.n(6, 10), "drill")
    p.section = ("front", y)


def drilled(p, x, z, y, n, thick, r, kind):
    """A hole square to a slanted face, from the place where its axis meets the face."""
    nx, nz = n
    p.add("- cyld %.12g %g %.12g %.12g 0 %.12g %g %g" % (x + nx, y, z + nz, -nx, -nz, r,
                                                         thick * 0.6 + 1 if kind == "blind" else thick + 2))
    if kind == "counterbore":
        p.add("- cyld %.12g %g %.12g %.12g 0 %.12g %g %g" % (x + nx, y, z + nz, -nx, -nz, r * 1.7, thick * 0.4 + 1))


def bent(p):
    """A plate with a leg that is bent up, the leg's end rounded, with holes in both."""
    t, w, l, leg = p.n(8, 15), p.n(40, 75), p.n(55, 85), p.n(45, 75)
    a = math.radians(p.n(25, 65, 5))
    d, up = (math.cos(a), math.sin(a)), (-math.sin(a), math.cos(a))
    k = t * math.tan(a / 2)  # from the lower bend to the upper one
    tip = (l + leg * d[0], leg * d[1])
    flip = p.chance(0.4)
    turn = (lambda x: 160 - x) if flip else (lambda x: x)
    pts = [(0, 0), (l, 0), tip, (tip[0] + t * up[0], tip[1] + t * up[1]), (l - k, t), (0, t)]
    p.add("+ prism y 0 %g : " % w + path([(turn(x), z) for x, z in pts]))
    e = (tip[0] + t * up[0] / 2, tip[1] + t * up[1] / 2)
    if p.chance(0.7):
        p.add("fillet %g : %.9g 0 %.9g , %.9g %g %.9g" % (p.n(6, min(14, w * 0.4)), turn(e[0]), e[1], turn(e[0]), w, e[1]))
    n = (-up[0] if flip else up[0], up[1])
    kind = p.rng.choice(["plain", "plain", "counterbore", "blind"])
    r = p.n(4, min(9, w * 0.16))
    at = leg - 2.6 * r - p.n(0, 6)
    x, z = l + at * d[0] + t * up[0], at * d[1] + t * up[1]
    if p.chance(0.25):
        b, h = r * 1.7 + 2, p.n(4, 9)
        p.add("+ cyld %.12g %g %.12g %.12g 0 %.12g %g %g" % (turn(x - 0.5 * up[0]), w / 2, z - 0.5 * up[1], *n, b, h + 0.5))
        drilled(p, turn(x + h * up[0]), z + h * up[1], w / 2, n, t + h, r, "plain")
    else:
        for y in ((w / 2,) if p.chance(0.7) else (w / 2 - 2.2 * r, w / 2 + 2.2 * r)):
            drilled(p, turn(x), z, y, n, t, min(r, w * 0.1) if y != w / 2 else r, kind)
    for y in (w * 0.3, w * 0.7) if p.chance(0.7) else (w / 2,):
        p.add("- cyl z %g %g -1 %g %g" % (turn(p.n(14, 14)), y, p.n(3, 5), t + 2))
    p.views, p.face = ["front", "top", "face"], n


def slanted(p):
    """A block with a sloping top and a hole square to it."""
    l, w, h = p.n(70, 110), p.n(45, 75), p.n(40, 65)
    low, b = p.n(15, h - 18), p.n(15, l * 0.4)
    p.add("+ prism y 0 %g : " % w + path([(0, 0), (l, 0), (l, low), (b, h), (0, h)]))
    run, fall = l - b, h - low
    n = (fall / math.hypot(run, fall), run / math.hypot(run, fall))
    at = p.n(0.45, 0.6, 0.05)
    x, z = b + at * run, h - at * fall
    drilled(p, x, z, w / 2, n, p.n(10, 16), p.n(4, 8), p.rng.choice(["counterbore", "blind"]))
    if p.chance(0.5):
        p.add("- cyl z %g %g -1 %g 200" % (b / 2, w / 2, p.n(2.5, b / 2 - 3)))
    if p.chance(0.4):
        p.add("- box -1 -1 -1 %g %g %g" % (p.n(10, l * 0.4), w + 2, p.n(5, 9) + 1))
    p.views, p.face = ["front", "top", "face"], n


FAMILIES = [steps, holes, turned, ribs, fillets, oblique, wedges, clevis, bosses, cones, sections, section_blocks,
            bent, slanted]
