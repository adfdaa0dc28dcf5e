"""Random parts as a drawing office makes them: brackets and covers with rounded edges, ribbed and cast brackets, shafts
with keyways and flats, flanges and bearing blocks in section, drilled blocks, blocks with one slanted face."""
import math

from families import path


def rounded_rectangle(x0, y0, x1, y1, r):
    """A rectangle with round corners as a profile."""
    c = r * (1 - math.sqrt(0.5))
    return path([(x0 + r, y0), (x1 - r, y0), (x1 - c, y0 + c, x1, y0 + r), (x1, y1 - r), (x1 - c, y1 - c, x1 - r, y1),
                 (x0 + r, y1), (x0 + c, y1 - c, x0, y1 - r), (x0, y0 + r), (x0 + c, y0 + c, x0 + r, y0)])


def drilled(p, x, y, z, d, r, depth):
    """A blind hole with a drill's point, from a place outside the part into it."""
    p.add("- cyld %.9g %.9g %.9g %g %g %g %g %.9g" % (x, y, z, *d, r, depth))
    tip = [q + depth * k for q, k in zip((x, y, z), d)]
    p.add("- coned %.9g %.9g %.9g %g %g %g %g 0 %.9g" % (*tip, *d, r, r / math.tan(math.radians(59))))


def rounded_bracket(p):
    l, w, h, t, s = p.n(85, 120), p.n(55, 85), p.n(60, 100), p.n(11, 16), p.n(12, 16)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    p.add("+ box 0 0 0 %g %g %g" % (s, w, h))
    corner, inner = p.n(10, 15), p.n(8, 16)
    p.add("fillet %g : %g 0 %g , %g %g %g , %g 0 %g , %g %g %g" % (corner, l, t / 2, l, w, t / 2, s / 2, h, s / 2, w, h))
    p.add("fillet %g : %g %g %g" % (inner, s, w / 2, t))
    p.add("fillet %g : %g 0 %g" % (p.n(2.5, 4), (s + l) / 2, t))
    x, r = p.n(s + inner + 8, l - corner - 2), p.n(4, 6)
    for y in (p.n(14, 18), w - p.n(14, 18)):
        p.add("- cyl z %g %g -1 %g %g" % (x, y, r, t + 2))
    p.add("- cyl x -1 %g %g %g %g" % (w / 2, (t + h) / 2 + 4, p.n(8, 12), s + 2))


def cover(p):
    l, w, t, h = p.n(120, 165), p.n(85, 110), p.n(11, 16), p.n(40, 60)
    corner, m = p.n(14, 20), p.n(24, 32)
    p.add("+ prism z 0 %g : " % t + rounded_rectangle(0, 0, l, w, corner))
    outer, e = p.n(15, 20), p.n(12, 18)
    x0, y0, x1, y1 = m, e, l - m, w - e
    p.add("+ prism z 0 %g : " % h + rounded_rectangle(x0, y0, x1, y1, outer))
    p.add("fillet %g : %g %g %g" % (p.n(3, 5), l / 2, y0, t))
    p.add("fillet %g : %g %g %g" % (p.n(3, 6), l / 2, y0, h))
    wall, roof = p.n(7, 9), p.n(7, 9)
    p.add("- prism z -1 %g : " % (h - roof + 1) + rounded_rectangle(x0 + wall, y0 + wall, x1 - wall, y1 - wall, outer - wall))
    p.add("fillet %g : %g %g %g" % (p.n(2, 3), l / 2, y0 + wall, h - roof))
    for x in (m / 2, l - m / 2):
        p.add("- cyl z %g %g -1 %g %g" % (x, w / 2, p.n(4, 5.5), t + 2))
    p.add("- cyl z %g %g %g %g %g" % (l / 2, w / 2, h - roof - 1, p.n(8, 11), roof + 2))


def cast_bracket(p):
    """A boss on a tapered back plate, with a rib before it."""
    l, w, t = p.n(110, 140), p.n(60, 75), p.n(10, 14)
    back, z, r = p.n(11, 13), p.n(70, 80), p.n(20, 23)
    x, foot = l / 2, p.n(35, 39)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    # The sides of the plate are tangents of the boss, from its feet.
    reach = math.hypot(foot, z - t)
    turn, touch = math.atan2(z - t, foot) + math.asin(r / reach), math.sqrt(reach * reach - r * r)
    right = (x + foot - touch * math.cos(turn), t + touch * math.sin(turn))
    left = (2 * x - right[0], right[1])
    p.add("+ prism y %g %g : " % (w - back, back) + path([(x - foot, t), (x + foot, t), right, (x, z), left]))
    before = p.n(18, 24)
    p.add("+ cyl y %g %g %g %g %g" % (x, before, z, r, w - before))
    rib = p.n(10, 12)
    p.add("+ prism x %g %g : " % (x - rib / 2, rib) + path([(w - back, t), (4, t), (p.n(32, 40), z), (w - back, z)]))
    p.add("- cyl y %g -1 %g %g %g" % (x, z, p.n(9, 13), w + 2))
    for at in (p.n(13, 15), l - p.n(13, 15)):
        p.add("- cyl z %g %g -1 %g %g" % (at, w / 2, p.n(4, 5.5), t + 2))


def side_bracket(p):
    """A boss on a tapered side plate, and a rib along the base."""
    l, w, t = p.n(105, 125), p.n(80, 100), p.n(12, 16)
    side, z, h = p.n(14, 18), p.n(62, 72), p.n(95, 110)
    m = w / 2
    run = p.n(18, 24)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, t))
    p.add("+ prism x 0 %g : " % side + path([(0, 0), (w, 0), (w, t), (w - run, h), (run, h), (0, t)]))
    r = p.n(20, 24)
    p.add("+ cyl x 0 %g %g %g %g" % (m, z, r, side + p.n(8, 12)))
    rib = p.n(12, 15)
    foot, top = l - p.n(20, 32), z - r
    p.add("+ prism y %g %g : " % (m - rib / 2, rib) + path([(side, t), (foot, t), (side + 6, top), (side - 2, top), (side - 2, t)]))
    p.add("- cyl x -1 %g %g %g %g" % (m, z, p.n(9, 13), l))
    for y in (p.n(16, 19), w - p.n(16, 19)):
        p.add("- cyl z %g %g -1 %g %g" % (l - p.n(30, 36), y, p.n(4, 6), t + 2))


def keyed_shaft(p):
    """A shaft with a groove beside its collar and a keyway."""
    r, l0, groove, d = p.n(13, 18), p.n(34, 42), p.n(3, 4), p.n(1, 1.5)
    c, collar, wide = p.n(1, 3), r + p.n(6, 11), p.n(12, 18)
    r1, l1 = r + p.n(1.5, 4), p.n(50, 72)
    a, b = l0 + groove, l0 + groove + wide
    p.add("+ rev x 0 0 0 : " + path([(0, 0), (0, r - c), (c, r), (l0, r), (l0, r - d), (a, r - d), (a, collar),
                                     (b, collar), (b, r1), (b + l1 - c, r1), (b + l1, r1 - c), (b + l1, 0)]))
    k = p.n(3, 4.5)
    x0, x1 = b + p.n(12, 18), b + l1 - p.n(12, 17)
    p.add("- prism z %g 40 : " % (r1 - p.n(3, 4.5)) + path([(x0 + k, -k), (x1 - k, -k), (x1, 0, x1 - k, k), (x0 + k, k), (x0, 0, x0 + k, -k)]))
    p.views = ["front", "side", "top"]


def flat_shaft(p):
    """A shaft with two flats at one end, a cross hole and a centre hole."""
    r, l0 = p.n(12, 17), p.n(55, 70)
    below = p.n(2.5, 4)
    r1, l1, c = r - below - p.n(0.5, 1.5), p.n(25, 35), p.n(1, min(2.5, below - 0.5))
    p.add("+ rev x 0 0 0 : " + path([(0, 0), (0, r - c), (c, r), (l0, r), (l0, r1), (l0 + l1 - c, r1), (l0 + l1, r1 - c), (l0 + l1, 0)]))
    flat, along = r - below, p.n(20, 26)
    p.add("- box -1 -50 %g %g 100 50" % (flat, along))
    p.add("- box -1 -50 %g %g 100 50" % (-flat - 50, along))
    p.add("- cyl y %g -50 0 %g 100" % (p.n(along + 10, l0 - 10), p.n(3, 5)))
    drilled(p, -1, 0, 0, (1, 0, 0), p.n(3, 4.5), p.n(12, 16))
    p.views = ["front", "side"]


def flange(p):
    """A hub with a recess in its bore and a collar with a bolt circle, in section."""
    bore, l, step = p.n(12, 17), p.n(50, 75), p.n(17, 20)
    hub, collar, c, rim = p.n(28, 36), p.n(58, 68), p.n(2, 3.5), p.n(7, 10)
    lip, neck, recess = bore + p.n(10, 18), p.n(5, 7), p.n(5, 7)
    p.add("+ rev x 0 0 0 : " + path([
        (0, bore), (0, lip + 10), (rim, lip + 10), (rim, collar), (step - c, collar), (step, collar - c), (step, hub), (l, hub), (l, bore),
        (neck + 8, bore), (neck + 8, bore + recess), (neck, bore + recess), (neck, bore)]))
    n, circle, first, r = p.rng.choice([4, 6]), (collar + max(hub, lip + 10)) / 2, p.rng.choice([0, 0.5]), p.n(4, 6)
    for i in range(n):
        a = 2 * math.pi * (i + first) / n
        p.add("- cyl x -1 %.9g %.9g %g %g" % (circle * math.cos(a), circle * math.sin(a), r, step + 2))
    p.views, p.section, p.hidden = ["front", "side"], ("front", 0), p.chance(0.5)


def bearing_block(p):
    l, w, h, t = p.n(75, 90), p.n(60, 75), p.n(80, 95), p.n(14, 17)
    foot = p.n(25, 31)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    p.add("+ box %g 0 0 %g %g %g" % (-foot, l + 2 * foot, w, t))
    floor, bore = p.n(12, 16), p.n(11, 14)
    p.add("- cyl z %g %g %g %g %g" % (l / 2, w / 2, floor, bore, h))
    p.add("- cyl z %g %g %g %g %g" % (l / 2, w / 2, h - p.n(28, 38), bore + p.n(6, 9), h))
    p.add("- cyl x %g %g %g %g %g" % (l / 2, w / 2, p.n(32, 40), p.n(6, 9), l))
    for x in (-foot / 2, l + foot / 2):
        p.add("- cyl z %g %g -1 %g %g" % (x, w / 2, p.n(4.5, 6), t + 2))
    p.views, p.section = ["front", "top", "side"], ("front", w / 2)


def cut_corner_block(p):
    """A block that one plane cuts the corner off, slanted to all views."""
    l, w, h = p.n(90, 115), p.n(50, 65), p.n(45, 60)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    p.add("- box %g -1 %g %g %g %g" % (p.n(8, 16), h - p.n(10, 14), p.n(12, 18), w + 2, 30))
    p.add("- cyl z %g %g -1 %g %g" % (p.n(48, 62), p.n(36, w - 12), p.n(4, 7), h + 2))
    a, b, c = p.n(35, 52), p.n(25, 38), p.n(25, 40)
    # The plane through the three places that lie so far from the corner on its edges.
    p.add("- half %g 0 %g %.12g %.12g %.12g" % (l - a, h, 1 / a, -1 / b, 1 / c))
    p.views = ["front", "top", "side"]


def ridge_block(p):
    """A wedge-backed block with a slope along it, another across, and cuts."""
    l, w, h = p.n(95, 120), p.n(60, 80), p.n(50, 65)
    low, x = p.n(20, 28), p.n(48, 60)
    p.add("+ prism y 0 %g : " % w + path([(0, 0), (l, 0), (l, low), (x, h), (0, h)]))
    z, y = p.n(28, 36), p.n(26, 34)
    p.add("- prism x -1 %g : " % (l + 2) + path([(0, z), (y, h), (y, h + 5), (-5, h + 5), (-5, z)]))
    p.add("- cyl y %g -1 %g %g %g" % (p.n(28, 38), p.n(14, 20), p.n(5, 8), w + 2))
    p.add("- box %g -1 -1 %g %g %g" % (p.n(60, 68), p.n(12, 18), w + 2, p.n(7, 11)))
    p.views = ["front", "top", "side"]


def bent_end(p):
    """A bent plate with a rounded end that is drilled square to itself."""
    angle = math.radians(p.rng.choice([35, 40, 45, 50]))
    w, t, l, slant = p.n(45, 72), p.n(11, 15), p.n(60, 78), p.n(52, 72)
    along, up = (math.cos(angle), math.sin(angle)), (-math.sin(angle), math.cos(angle))
    end = (l + slant * along[0], slant * along[1])
    inner = l - t * math.tan(angle / 2)
    p.add("+ prism y 0 %g : " % w + path([(0, 0), (l, 0), end, (end[0] + t * up[0], end[1] + t * up[1]), (inner, t), (0, t)]))
    m = (end[0] + t / 2 * up[0], end[1] + t / 2 * up[1])
    p.add("fillet %g : %.9g 0 %.9g , %.9g %g %.9g" % (p.n(11, 14), *m, m[0], w, m[1]))
    d = p.n(22, 28)
    at = (end[0] - d * along[0] + (t + 1) * up[0], end[1] - d * along[1] + (t + 1) * up[1])
    p.add("- cyld %.9g %g %.9g %.12g 0 %.12g %g %g" % (at[0], w / 2, at[1], -up[0], -up[1], p.n(7, 12), t + 2))
    for y in (p.n(13, 16), w - p.n(13, 16)):
        p.add("- cyl z %g %g -1 %g %g" % (p.n(15, 18), y, p.n(4, 5.5), t + 2))
    p.views, p.face = ["front", "top", "face"], up


def gland(p):
    """A plate with round corners, a boss with a bore, bolts and an open slot."""
    l, w, t, r = p.n(120, 150), p.n(74, 94), p.n(12, 16), p.n(9, 13)
    p.add("+ prism z 0 %g : " % t + rounded_rectangle(0, -w / 2, l, w / 2, r))
    x, boss = p.n(65, 80), p.n(18, 23)
    p.add("+ cyl z %g 0 0 %g %g" % (x, boss, t + p.n(12, 20)))
    p.add("- cyl z %g 0 -1 %g 80" % (x, p.n(8, 12)))
    m, hole = p.n(12.5, 15), p.n(4, 5.5)
    for a in (m, l - m):
        for b in (-w / 2 + m, w / 2 - m):
            p.add("- cyl z %g %g -1 %g %g" % (a, b, hole, t + 2))
    k, e = p.n(3.5, 5), p.n(14, 18)
    p.add("- prism z -1 %g : " % (t + 2) + path([(-1, -k), (e, -k), (e + k, 0, e, k), (-1, k)]))


def round_fork(p):
    """A U with round corners within, its cheeks rounded at the top."""
    w, a, b, h, t = p.n(42, 56), p.n(38, 48), p.n(26, 32), p.n(95, 115), p.n(10, 13)
    r, c = p.n(5, 7), math.sqrt(0.5)
    i = b - r * (1 - c)
    p.add("+ prism y 0 %g : " % w + path([(-a, 0), (a, 0), (a, h), (b, h), (b, t + r), (i, t + r * (1 - c), b - r, t),
                                          (-b + r, t), (-i, t + r * (1 - c), -b, t + r), (-b, h), (-a, h)]))
    m = w / 2  # what the round ends leave
    p.add("- prism x %g %g : " % (-a - 1, 2 * a + 2) + path([(0, h - m), (m, h, w, h - m), (w + 2, h - m), (w + 2, h + 2), (-2, h + 2), (-2, h - m), (0, h - m)]))
    p.add("- cyl x %g %g %g %g %g" % (-a - 1, m, h - m, p.n(6, 10), 2 * a + 2))
    p.add("- cyl z 0 %g -1 %g %g" % (w / 2, p.n(4, 6), t + 2))


def drilled_plate(p):
    """Counterbored corners, countersunk holes, a drilled blind hole and a bore."""
    l, w, h = p.n(150, 190), p.n(90, 120), p.n(28, 36)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    m, r, wide, deep = p.n(18, 22), p.n(4, 5), p.n(7, 8.5), p.n(8, 10)
    for x in (m, l - m):
        for y in (m, w - m):
            p.add("- cyl z %g %g -1 %g %g" % (x, y, r, h + 2))
            p.add("- cyl z %g %g %g %g %g" % (x, y, h - deep, wide, deep + 1))
    x, r, top = p.n(48, 56), p.n(3, 4.5), p.n(6.5, 9)
    for s in (-1, 1):
        y = w / 2 + s * p.n(12, 14)
        p.add("- cyl z %g %g -1 %g %g" % (x, y, r, h + 2))
        p.add("- coned %g %g %g 0 0 -1 %g 0 %g" % (x, y, h + 0.5, top, top))
    drilled(p, p.n(125, 132) if l > 160 else 115, w / 2, h + 1, (0, 0, -1), p.n(5.5, 7), p.n(16, 20))
    p.add("- cyl z %g %g -1 %g %g" % (p.n(88, 94), w / 2, p.n(13, 16.5), h + 2))
    p.views = ["front", "top"]


def drilled_block(p):
    """A block with a rebate, a stepped bore, countersunk holes and blind ones from two sides."""
    l, w, h = p.n(85, 100), p.n(62, 75), p.n(48, 56)
    p.add("+ box 0 0 0 %g %g %g" % (l, w, h))
    p.add("- box -1 -1 %g %g %g %g" % (h - p.n(9, 13), l + 2, p.n(8, 10), 20))
    x, y, r = p.n(30, 34), p.n(34, 39), p.n(9, 11)
    p.add("- cyl z %g %g -1 %g %g" % (x, y, r, h + 2))
    p.add("- cyl z %g %g %g %g %g" % (x, y, h - p.n(7, 10), r + p.n(3, 4.5), 20))
    r, top = p.n(3, 4), p.n(6.5, 8)
    for b in (p.n(16, 18), w - p.n(12, 15)):
        p.add("- cyl z %g %g -1 %g %g" % (l - 19, b, r, h + 2))
        p.add("- coned %g %g %g 0 0 -1 %g 0 %g" % (l - 19, b, h + 0.5, top, top))
    drilled(p, l + 1, p.n(38, 43), p.n(26, 30), (-1, 0, 0), p.n(4, 5), p.n(22, 27))
    drilled(p, p.n(54, 60), -1, p.n(20, 24), (0, 1, 0), p.n(4.5, 6), p.n(24, 28))
    p.views = ["front", "top", "side"]


OFFICE = [rounded_bracket, cover, cast_bracket, side_bracket, keyed_shaft, flat_shaft, flange, bearing_block,
          cut_corner_block, ridge_block, bent_end, gland, round_fork, drilled_plate, drilled_block]
