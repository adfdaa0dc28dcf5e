"""Further random parts: guides, levers, housings, wheels, pipes, plates, brackets, screws, caps."""
import math

from families import hole, path


def vblocks(p):
    """A block with a V groove, relieved at its bottom, and steps along its sides."""
    l, w, h = p.n(60, 110), p.n(50, 80), p.n(35, 60)
    c, half = w / 2, p.n(12, w / 2 - 6)
    depth = min(half, h - 14)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    p.add("- prism x -1 %g : " % (l + 2) + path([(c - depth, h), (c, h - depth), (c + depth, h)]))
    s = p.n(1.5, 3)
    p.add("- box -1 %g %g %g %g 100" % (c - s, h - depth - p.n(1, 4), l + 2, 2 * s))
    if p.chance(0.5):
        a, b = p.n(4, 8), p.n(5, 9)
        for y in (-1, w - a):
            p.add("- box -1 %g %g %g %g %g" % (y, h * 0.4, l + 2, a + 1, b))
    if p.chance(0.5):
        for x in (l * 0.2, l * 0.8):
            p.add("- cyl z %g %g -1 %g 300" % (x, c, p.n(2, s) if p.chance(0.3) else s * 0.9))
    if p.chance(0.4):
        p.add("- cyl y %g -1 %g %g 300" % (l / 2, p.n(7, 10), p.n(2.5, 4.5)))


def dovetails(p):
    l, w, h = p.n(60, 110), p.n(60, 100), p.n(30, 50)
    c, top, d = w / 2, p.n(8, 14), p.n(9, h - 14)
    under = top + d * math.tan(math.radians(p.rng.choice([15, 30])))
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    if p.chance(0.6):  # a groove
        p.add("- prism x -1 %g : " % (l + 2) + path([(c - top, h + 1), (c - top, h), (c - under, h - d), (c + under, h - d), (c + top, h), (c + top, h + 1)]))
    else:  # a tongue
        p.add("- prism x -1 %g : " % (l + 2) + path([(-1, h + 1), (-1, h - d), (c - top, h - d), (c - under, h), (c - under, h + 1)]))
        p.add("- prism x -1 %g : " % (l + 2) + path([(w + 1, h + 1), (w + 1, h - d), (c + top, h - d), (c + under, h), (c + under, h + 1)]))
    if p.chance(0.6):
        p.add("- cyl z %g %g -1 %g 300" % (l / 2, c, p.n(3, 6)))
    if p.chance(0.5):
        p.add("- box %g -1 -1 %g %g %g" % (l * 0.3, l * 0.4, w + 2, p.n(4, 7) + 1))


def levers(p):
    """Two eyes of unlike size with a web between them whose flanks touch both."""
    a, r0, r1 = p.n(60, 110), p.n(14, 22), p.n(9, 13)
    t, h0, h1 = p.n(6, 10), p.n(14, 30), p.n(10, 20)
    lift = p.n(0, 3) if p.chance(0.5) else 0
    s = (r0 - r1) / a
    up = math.sqrt(1 - s * s)
    p.add("+ prism z %g %g : " % (lift, t) + path([(r0 * s, r0 * up), (a + r1 * s, r1 * up), (a + r1 * s, -r1 * up), (r0 * s, -r0 * up)]))
    p.add("+ cyl z 0 0 0 %g %g" % (r0, max(h0, lift + t)))
    p.add("+ cyl z %g 0 0 %g %g" % (a, r1, max(h1, lift + t)))
    p.add("- cyl z 0 0 -1 %g 200" % p.n(5, r0 - 4))
    p.add("- cyl z %g 0 -1 %g 200" % (a, p.n(3, r1 - 3)))
    if p.chance(0.4):
        p.add("- box %g -3 %g %g 6 200" % (-r0 - 1, lift + t, r0))
    p.views = p.rng.choice([["front", "top"], ["front", "top", "side"]])


def housings(p):
    """An open box with a flange round its mouth and bores through its walls."""
    l, w, h, t = p.n(70, 120), p.n(50, 90), p.n(40, 60), p.n(6, 10)
    f, ft = p.n(10, 16), p.n(7, 12)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    p.add("+ box %g %g %g %g %g %g" % (-f, -f, h - ft, l + 2 * f, w + 2 * f, ft))
    p.add("- box %g %g %g %g %g 200" % (t, t, t, l - 2 * t, w - 2 * t))
    r, z = p.n(8, 14), h * 0.45
    both = p.chance(0.5)
    p.add("- cyl x %g %g %g %g %g" % (-1 if both else l / 2, w / 2, z, min(r, z - t - 1, w / 2 - t - 1), l + 2 if both else l))
    if p.chance(0.5):
        p.add("+ cyl y %g %g %g %g %g" % (l / 2, w, z, min(r, z - 3), f - 2))
        p.add("- cyl y %g %g %g %g 100" % (l / 2, w - t - 1, z, min(r, z - 3) * 0.5))
    for x in (-f / 2, l + f / 2):
        for y in (-f / 2, w + f / 2):
            p.add("- cyl z %g %g -1 %g 300" % (x, y, f * 0.25))


def pulleys(p):
    """A wheel with a grooved rim, a web and a hub; bored, with a keyway through the hub, drawn as a section or with
    hidden lines."""
    r, hub, bore = p.n(40, 65), p.n(15, 22), p.n(6, 10)
    w, hw, t = p.n(18, 30), p.n(24, 44), p.n(6, 9)
    rim, g = p.n(14, 18), p.n(5, 8)
    hw = max(hw, w)
    a, b = (hw - w) / 2, (hw + w) / 2
    m0, m1, c = hw / 2 - t / 2, hw / 2 + t / 2, hw / 2
    gw = g * math.tan(math.radians(18)) + 2
    outer = [(a, r), (c - gw, r), (c - 2, r - g), (c + 2, r - g), (c + gw, r), (b, r)] if p.chance(0.7) else [(a, r), (b, r)]
    p.add("+ rev x 0 0 0 : " + path([(0, bore), (0, hub), (m0, hub), (m0, r - rim), (a, r - rim)] + outer +
                                    [(b, r - rim), (m1, r - rim), (m1, hub), (hw, hub), (hw, bore)]))
    if p.chance(0.6):
        k = p.n(2, 3)
        p.add("- box -1 %g 0 %g %g %g" % (-k, hw + 2, 2 * k, bore + p.n(2, 3)))
    if p.chance(0.5):
        n, pitch = p.rng.choice([4, 6]), (hub + r - rim) / 2
        size = min(p.n(4, 8), (r - rim - hub) / 2 - 2)
        if size > 1:
            for i in range(n):
                q = 2 * math.pi * i / n
                p.add("- cyl x -1 %.9g %.9g %g 300" % (pitch * math.cos(q), pitch * math.sin(q), size))
    p.views = ["front", "side"]


def forks(p):
    """A round stem with a forked head."""
    r, l, w, t, h = p.n(9, 14), p.n(30, 60), p.n(30, 44), p.n(12, 18), p.n(30, 50)
    b = p.n(20, w)
    p.add("+ cyl x %g 0 0 %g %g" % (-l, min(r, b / 2, w / 2) - 1, l + 1))
    p.add("+ box 0 %g %g %g %g %g" % (-w / 2, -b / 2, h - b / 2, w, b))
    p.add("+ cyl y %g %g 0 %g %g" % (h - b / 2, -w / 2, b / 2, w))
    p.add("- box %g %g -100 200 %g 200" % (p.n(9, 14), -t / 2, t))
    p.add("- cyl y %g -100 0 %g 200" % (h - b / 2, p.n(4, b / 2 - 4)))
    if p.chance(0.4):
        p.add("- cyl x %g 0 0 %g %g" % (-l - 1, p.n(2.5, 4), p.n(12, 20)))


def tees(p):
    """A pipe with flanges at its ends and a flanged branch."""
    r, t, l = p.n(18, 26), p.n(4, 7), p.n(80, 130)
    f, ft = r + p.n(10, 16), p.n(7, 11)
    b, reach = p.n(11, r - 3), f + p.n(6, 25)
    p.add("+ cyl z 0 0 0 %g %g" % (r, l))
    p.add("+ cyl z 0 0 0 %g %g" % (f, ft))
    flanges = [0]
    if p.chance(0.7):
        p.add("+ cyl z 0 0 %g %g %g" % (l - ft, f, ft))
        flanges.append(l - ft)
    c = l / 2 + p.n(-8, 8)
    p.add("+ cyl x 0 0 %g %g %g" % (c, b, reach))
    if p.chance(0.7):
        fb = min(b + p.n(6, 10), c - ft - 3, l - c - ft - 3)
        p.add("+ cyl x %g 0 %g %g %g" % (reach - 8, c, max(fb, b), 8))
    p.add("- cyl z 0 0 -1 %g 400" % (r - t))
    p.add("- cyl x 0 0 %g %g 400" % (c, b - min(t, b - 4)))
    n = p.rng.choice([4, 6])
    for i in range(n):
        q = 2 * math.pi * (i + 0.5) / n
        for z in flanges:
            p.add("- cyl z %.9g %.9g %g %g %g" % ((r + f) / 2 * math.cos(q), (r + f) / 2 * math.sin(q), z - 1, (f - r) * 0.25, ft + 2))
    if p.chance(0.5):
        p.section = ("front", 0.0)
        p.views = ["front", "top"]


def slots(p):
    """A plate with long holes, open slots with round ends and a long boss."""
    l, w, t = p.n(90, 140), p.n(50, 80), p.n(9, 16)

    def long_hole(x, y, half, r, along_x=True):
        if along_x:
            return path([(x - half, y - r), (x + half, y - r), (x + half + r, y, x + half, y + r), (x - half, y + r), (x - half - r, y, x - half, y - r)])
        return path([(x + r, y - half), (x + r, y + half), (x, y + half + r, x - r, y + half), (x - r, y - half), (x, y - half - r, x + r, y - half)])

    r = p.n(6, 12)
    p.add("+ prism z 0 %g : " % t + path([(r, 0), (l - r, 0), (l - r * (1 - math.sqrt(0.5)), r * (1 - math.sqrt(0.5)), l, r), (l, w), (0, w), (0, r),
                                          (r * (1 - math.sqrt(0.5)), r * (1 - math.sqrt(0.5)), r, 0)]))
    if p.chance(0.6):
        p.add("+ prism z %g %g : " % (t, p.n(6, 14)) + long_hole(l / 2, w / 2, p.n(10, 18), p.n(9, 13)))
    p.add("- prism z -1 100 : " + long_hole(l / 2, w / 2, p.n(5, 9), p.n(3.5, 7)))
    s = p.n(3, 5)
    for x in (l * 0.14, l * 0.86):
        if p.chance(0.7):
            p.add("- prism z -1 100 : " + long_hole(x, w / 2, p.n(4, 12), s, False))
    if p.chance(0.5):
        d = p.n(10, 16)
        p.add("- prism z -1 100 : " + path([(l / 2 - s, w + 1), (l / 2 - s, w - d), (l / 2, w - d - s, l / 2 + s, w - d), (l / 2 + s, w + 1)])
              if w / 2 - d - s > 14 else "- cyl z %g %g -1 2.5 100" % (l * 0.3, w - 7))
    if p.chance(0.3):
        p.add("- box -1 -1 %g %g %g 100" % (t * 0.6, l * 0.25, w + 2))


def gussets(p):
    """An angle with a triangular gusset at each side, or a channel, and slots in the upright."""
    l, w, h, t = p.n(60, 100), p.n(60, 90), p.n(55, 90), p.n(8, 12)
    g = p.n(6, 10)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    p.add("+ box 0 0 0 %g %g %g" % (t, w, h))
    foot, top = p.n(l * 0.6, l), p.n(h * 0.6, h)
    for y in (0, w - g):
        p.add("+ prism y %g %g : " % (y, g) + path([(t, t), (foot, t), (t, top)]))
    if p.chance(0.5):
        p.add("- cyl x -1 %g %g %g 100" % (w / 2, h * 0.7, p.n(6, w * 0.2)))
    else:
        p.add("- box -1 %g %g 100 %g 200" % (w / 2 - 8, h - p.n(15, 25), 16))
    p.add("- cyl z %g %g -1 %g 300" % (l * 0.65, w / 2, p.n(4, 9)))
    if p.chance(0.4):
        p.add("- box %g -1 -1 100 %g 200" % (l - p.n(2, 4), w * 0.3))


def screws(p):
    """A hexagon on a round stem, with a flange now and then; the corners of the hexagon lie in the front view."""
    s, k, r, l = p.n(14, 24), p.n(8, 16), p.n(6, 12), p.n(30, 60)
    corner = s / math.cos(math.pi / 6)
    pts = [(corner * math.cos(math.pi / 3 * i), corner * math.sin(math.pi / 3 * i)) for i in range(6)]
    z = 0.0
    p.add("+ cyl z 0 0 0 %g %g" % (r, l + 1))
    z = l
    if p.chance(0.4):
        p.add("+ cyl z 0 0 %g %g %g" % (z, corner + p.n(2, 6), 5))
        z += 5
    p.add("+ prism z %g %g : " % (z, k) + path(pts))
    if p.chance(0.5):
        p.add("- cyl z 0 0 -1 %g 300" % p.n(2.5, r - 3))
    elif p.chance(0.5):
        p.add("- cyl z 0 0 %g %g 100" % (z + k - p.n(4, k - 2), p.n(4, s - 5)))
    if p.chance(0.4):
        p.add("- cyl x -60 0 %g %g 120" % (l * 0.3, p.n(1.5, r * 0.4)))
    p.views = p.rng.choice([["front", "top"], ["front", "top", "side"]])


def caps(p):
    """The cap of a bearing: half round above, bored, with lugs."""
    r, b, w, lug, t = p.n(22, 32), p.n(10, 18), p.n(30, 55), p.n(16, 26), p.n(10, 16)
    p.add("+ box %g 0 0 %g %g %g" % (-r - lug, 2 * (r + lug), w, t))
    p.add("+ cyl y 0 0 0 %g %g" % (r, w))
    p.add("- box -200 -1 -200 400 200 200")
    p.add("- cyl y 0 -1 0 %g 300" % b)
    for x in (-r - lug / 2, r + lug / 2):
        hole(p, "z", x, w / 2, t, min(lug * 0.2, 5), t + 1, p.rng.choice(["plain", "counterbore"]))
    if p.chance(0.5):
        a = p.n(5, 8)
        p.add("+ cyl z 0 %g %g %g %g" % (w / 2, r - 6, a, 6 + p.n(3, 8)))
        p.add("- cyl z 0 %g 0 %g 200" % (w / 2, a * 0.5))


def links(p):
    """A foot with an upright eye that leans on a rib, all rounded where they meet."""
    l, w, t = p.n(70, 110), p.n(40, 60), p.n(10, 14)
    eye, z, e = p.n(14, w / 2 - 4), p.n(50, 75), p.n(12, 18)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    p.add("+ prism x 0 %g : " % e + path([(w / 2 - eye, 0), (w / 2 + eye, 0), (w / 2 + eye, z), (w / 2, z + eye, w / 2 - eye, z)]))
    p.add("- cyl x -1 %g %g %g 100" % (w / 2, z, p.n(6, eye - 5)))
    rib = p.n(7, 10)
    if p.chance(0.6):
        p.add("+ prism y %g %g : " % (w / 2 - rib / 2, rib) + path([(e, t), (p.n(e + 20, l - 8), t), (e, z - eye - p.n(0, 5))]))
    r = p.n(5, 9)
    p.add("fillet %g : %g 0 %g , %g %g %g" % (r, l, t / 2, l, w, t / 2))
    for y in (w * 0.25, w * 0.75):
        p.add("- cyl z %g %g -1 %g 200" % (l - r - 7, y, p.n(3, 4.5)))


def chamfered(p):
    """Blocks and pads with chamfered edges."""
    l, w, h = p.n(60, 100), p.n(45, 75), p.n(25, 45)
    c = p.n(2, 6)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    corner = p.n(4, 10)
    if p.chance(0.5):
        p.add("chamfer %g : 0 0 %g , %g 0 %g" % (corner, h / 2, l, h / 2))
    else:
        p.add("chamfer %g : %g 0 %g , %g %g %g" % (c, l / 2, h, l / 2, w, h))
    if p.chance(0.5):
        r = p.n(9, min(w / 2 - 10, 16))
        p.add("+ cyl z %g %g %g %g %g" % (l / 2, w / 2, h - 1, r, p.n(8, 16) + 1))
        p.add("- cyl z %g %g -1 %g 200" % (l / 2, w / 2, p.n(3, r - 4)))
    else:
        d = p.n(5, h - 12)
        p.add("- box %g %g %g %g %g 100" % (l * 0.25, w * 0.3, h - d, l * 0.5, w * 0.4))
    if p.chance(0.4):
        p.add("- cyl y %g -1 %g %g 300" % (l * 0.12, p.n(7, h * 0.4), p.n(2, 3.5)))


FURTHER = [vblocks, dovetails, levers, housings, pulleys, forks, tees, slots, gussets, screws, caps, links, chamfered]
