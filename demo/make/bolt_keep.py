"""The bolt keep of the boathouse door: a plate with two pockets behind each other. Front and top view only, so that no view
says which of the pockets is the deep one. Third angle, full size."""
import sys

from sheet import ViewPen, border, new_sheet

# Model: X to the right, Y to the back, Z up. All mm. Both pockets are as long and stand level; one is SHALLOW deep, one DEEP.
L, W, H = 120, 80, 30
POCKET, NEAR, FAR = (20, 70), (10, 30), (42, 70)
SHALLOW, DEEP = 10, 20
BOLT_X, BOLT_Y, BOLT_R = 96, 40, 7

doc, msp = new_sheet()
front, top = ViewPen(msp, (130, 80)), ViewPen(msp, (130, 150))

front.chain([(0, 0), (L, 0), (L, H), (0, H)], close=True)
front.chain([(POCKET[0], H), (POCKET[0], H - DEEP), (POCKET[1], H - DEEP), (POCKET[1], H)], "HIDDEN")
front.line(POCKET[0], H - SHALLOW, POCKET[1], H - SHALLOW, "HIDDEN")
for s in (1, -1):
    front.line(BOLT_X + s * BOLT_R, 0, BOLT_X + s * BOLT_R, H, "HIDDEN")
front.line(BOLT_X, -5, BOLT_X, H + 5, "CENTRE")

top.chain([(0, 0), (L, 0), (L, W), (0, W)], close=True)
for y in (NEAR, FAR):
    top.chain([(POCKET[0], y[0]), (POCKET[1], y[0]), (POCKET[1], y[1]), (POCKET[0], y[1])], close=True)
top.circle(BOLT_X, BOLT_Y, BOLT_R)
top.cross(BOLT_X, BOLT_Y, BOLT_R + 4)

front.across(0, L, 0, 0, -16)
front.across(0, POCKET[0], H, H, H + 10)
front.across(POCKET[0], POCKET[1], H, H, H + 10)
front.upright(0, H, 0, 0, -14)
front.upright(H - SHALLOW, H, POCKET[1], L, L + 12)
front.upright(H - DEEP, H, POCKET[1], L, L + 22)
top.upright(0, W, 0, 0, -34)
top.upright(0, NEAR[0], 0, POCKET[0], -14)
top.upright(NEAR[0], NEAR[1], POCKET[0], POCKET[0], -14)
top.upright(0, FAR[0], 0, POCKET[0], -24)
top.upright(FAR[0], FAR[1], POCKET[0], POCKET[0], -24)
top.across(0, BOLT_X, W, BOLT_Y, W + 10)
top.upright(0, BOLT_Y, L, BOLT_X, L + 12)
top.diameter(BOLT_X, BOLT_Y, BOLT_R, 30)

border(msp, 420, 297, [
    ("Title", "BOLT KEEP"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-122-06"), ("Material", "IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
