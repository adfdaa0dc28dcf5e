"""The bracket of the keeper's lamp: a foot with a bevelled end and two holes, and a wall that stands on it. Third angle, front, top and right view,
full size."""
import sys

from sheet import ViewPen, border, new_sheet

# The foot lies along X, the wall stands up along Z, both W deep. All mm.
L, H, W, T, WALL, BEVEL = 90, 70, 40, 6, 8, 4
HOLE_X, HOLE_Y, HOLE_R = 60, 10, 4

doc, msp = new_sheet()
front, top, right = ViewPen(msp, (70, 90)), ViewPen(msp, (70, 200)), ViewPen(msp, (230, 90))

front.chain([(0, 0), (L, 0), (L - BEVEL, T), (WALL, T), (WALL, H), (0, H)], close=True)
for e in (1, -1):
    front.line(HOLE_X + e * HOLE_R, 0, HOLE_X + e * HOLE_R, T, "HIDDEN")
front.line(HOLE_X, -5, HOLE_X, T + 5, "CENTRE")
top.chain([(0, 0), (L, 0), (L, W), (0, W)], close=True)
top.line(WALL, 0, WALL, W)
top.line(L - BEVEL, 0, L - BEVEL, W)
right.chain([(0, 0), (W, 0), (W, H), (0, H)], close=True)
right.line(0, T, W, T)
for y in (HOLE_Y, W - HOLE_Y):
    top.circle(HOLE_X, y, HOLE_R)
    top.cross(HOLE_X, y, HOLE_R + 4)
    for e in (1, -1):
        right.line(y + e * HOLE_R, 0, y + e * HOLE_R, T, "HIDDEN")
    right.line(y, -5, y, T + 5, "CENTRE")
top.line(-6, W / 2, L + 6, W / 2, "CENTRE")

front.across(0, L, 0, 0, -16)
front.across(0, WALL, H, H, H + 10)
front.upright(0, H, 0, 0, -14)
front.upright(0, T, L, L - BEVEL, L + 14)
front.across(L - BEVEL, L, T, 0, T + 20)
top.across(0, HOLE_X, W, W - HOLE_Y, W + 12)
top.upright(0, W, L, L, L + 24)
top.upright(HOLE_Y, W - HOLE_Y, HOLE_X, HOLE_X, L + 12)
top.diameter(HOLE_X, HOLE_Y, HOLE_R, 40, "2x <>")

border(msp, 420, 297, [
    ("Title", "LAMP BRACKET"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-109-06"), ("Material", "STEEL"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
