"""The deck chock under the landing boat: a block with a slot across it, a hole from the front and one corner cut off by a
plane that lies oblique to all views. Third angle, front, top and right view, full size."""
import sys

from sheet import ViewPen, border, new_sheet

# Model: X to the right, Y to the back, Z up. All mm. The cut goes through (CUT_X, 0, H), (L, 0, CUT_Z) and (L, CUT_Y, H).
L, W, H = 110, 70, 55
CUT_X, CUT_Y, CUT_Z = 65, 45, 22
SLOT, SLOT_FLOOR = (18, 42), 38
HOLE_X, HOLE_Z, HOLE_R = 72, 16, 8

doc, msp = new_sheet()
front, top, right = ViewPen(msp, (80, 90)), ViewPen(msp, (80, 180)), ViewPen(msp, (260, 90))

# front view (X, Z): the top edge at the back stands behind the cut
front.chain([(0, H), (0, 0), (L, 0), (L, H), (SLOT[1], H), (SLOT[1], SLOT_FLOOR), (SLOT[0], SLOT_FLOOR), (SLOT[0], H), (0, H)])
front.line(CUT_X, H, L, CUT_Z)
front.circle(HOLE_X, HOLE_Z, HOLE_R)
front.cross(HOLE_X, HOLE_Z, HOLE_R + 4)

# top view (X, Y)
top.chain([(0, 0), (L, 0), (L, W), (0, W)], close=True)
for x in SLOT:
    top.line(x, 0, x, W)
top.line(CUT_X, 0, L, CUT_Y)
for s in (1, -1):
    top.line(HOLE_X + s * HOLE_R, 0, HOLE_X + s * HOLE_R, W, "HIDDEN")
top.line(HOLE_X, -5, HOLE_X, W + 5, "CENTRE")

# right view (Y, Z)
right.chain([(0, 0), (W, 0), (W, H), (0, H)], close=True)
right.line(0, CUT_Z, CUT_Y, H)
right.line(0, SLOT_FLOOR, W, SLOT_FLOOR, "HIDDEN")
for s in (1, -1):
    right.line(0, HOLE_Z + s * HOLE_R, W, HOLE_Z + s * HOLE_R, "HIDDEN")
right.line(-5, HOLE_Z, W + 5, HOLE_Z, "CENTRE")

front.across(0, L, 0, 0, -18)
front.across(0, SLOT[0], H, H, H + 10)
front.across(SLOT[0], SLOT[1], H, H, H + 10)
front.across(0, CUT_X, H, H, H + 20)
front.across(0, HOLE_X, 0, HOLE_Z, -10)
front.upright(0, H, 0, 0, -14)
front.upright(SLOT_FLOOR, H, SLOT[0], 0, -24)
front.upright(0, HOLE_Z, L, HOLE_X, L + 10)
front.upright(0, CUT_Z, L, L, L + 18)
front.diameter(HOLE_X, HOLE_Z, HOLE_R, 150)
top.upright(0, W, L, L, L + 24)
top.upright(0, CUT_Y, L, L, L + 12)

border(msp, 420, 297, [
    ("Title", "DECK CHOCK"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-121-02"), ("Material", "OAK"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
