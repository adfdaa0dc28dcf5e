"""The dial plate of the drive's clockwork: rounded corners, a chamfer all round its face, a grid of holes and a counterbored
hole in the middle. Third angle, front, top and right view, full size."""
import sys

from sheet import ViewPen, border, new_sheet

# All mm.
L, W, H, R, C = 130, 90, 14, 12, 2
HOLES_X, HOLES_Y, HOLE_R = (25, 105), (22, 68), 4
BORE_R, WIDE_R, WIDE_DEEP = 10, 16, 5

doc, msp = new_sheet()
front, top, right = ViewPen(msp, (70, 90)), ViewPen(msp, (70, 150)), ViewPen(msp, (260, 90))


def rounded(view, inset, r):
    a, b, c, d = inset, L - inset, inset, W - inset
    view.line(a + r, c, b - r, c)
    view.line(b, c + r, b, d - r)
    view.line(b - r, d, a + r, d)
    view.line(a, d - r, a, c + r)
    view.arc(a + r, c + r, r, 180, 270)
    view.arc(b - r, c + r, r, 270, 0)
    view.arc(b - r, d - r, r, 0, 90)
    view.arc(a + r, d - r, r, 90, 180)


rounded(top, 0, R)
rounded(top, C, R - C)
for view, l, holes in ((front, L, HOLES_X), (right, W, HOLES_Y)):
    view.chain([(0, 0), (l, 0), (l, H - C), (l - C, H), (C, H), (0, H - C)], close=True)
    view.line(0, H - C, l, H - C)
    middle = l / 2
    view.chain([(middle - WIDE_R, H), (middle - WIDE_R, H - WIDE_DEEP), (middle + WIDE_R, H - WIDE_DEEP), (middle + WIDE_R, H)],
               "HIDDEN")
    for e in (1, -1):
        view.line(middle + e * BORE_R, 0, middle + e * BORE_R, H - WIDE_DEEP, "HIDDEN")
    view.line(middle, -5, middle, H + 5, "CENTRE")
    for x in holes:
        view.line(x, -5, x, H + 5, "CENTRE")
        for e in (1, -1):
            view.line(x + e * HOLE_R, 0, x + e * HOLE_R, H, "HIDDEN")
for x in HOLES_X:
    for y in HOLES_Y:
        top.circle(x, y, HOLE_R)
        top.cross(x, y, HOLE_R + 3)
for r in (BORE_R, WIDE_R):
    top.circle(L / 2, W / 2, r)
top.cross(L / 2, W / 2, WIDE_R + 4)

front.across(0, L, 0, 0, -16)
front.upright(0, H, 0, 0, -14)
front.upright(H - C, H, L, L - C, L + 12)
top.upright(0, W, L, L, L + 26)
top.across(0, HOLES_X[0], W, HOLES_Y[1], W + 10)
top.across(HOLES_X[0], HOLES_X[1], HOLES_Y[1], HOLES_Y[1], W + 10)
top.upright(0, HOLES_Y[0], L, HOLES_X[1], L + 12)
top.upright(HOLES_Y[0], HOLES_Y[1], HOLES_X[1], HOLES_X[1], L + 12)
top.radius(R, W - R, R, 135)
top.radius(L - R, R, R - C, 315)
top.diameter(HOLES_X[0], HOLES_Y[0], HOLE_R, 40, "4x <>")
top.diameter(L / 2, W / 2, BORE_R, 20)
top.diameter(L / 2, W / 2, WIDE_R, 160)
right.upright(H - WIDE_DEEP, H, W / 2 + WIDE_R, W / 2 + WIDE_R, W + 12)

border(msp, 420, 297, [
    ("Title", "DIAL PLATE"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-115-08"), ("Material", "BRASS"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
