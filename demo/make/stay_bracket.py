"""The stay bracket of the gallery rail: a plate with rounded corners and two bolt holes, a bored boss, and a rib that runs
down from the boss to the plate. Third angle, front, top and right view, full size."""
import math
import sys

from sheet import ViewPen, border, new_sheet

# Model: X to the right, Y to the back (0 in the middle of the part), Z up. All mm.
L, W, H, CORNER = 130, 70, 15, 12
BOSS_X, BOSS_R, BORE_R, TOP = 40, 25, 15, 75
RIB, RIB_TO, RIB_HIGH = 10, 105, 60  # its thickness; where its top meets the plate; its height at the boss's side
BOLT_X, BOLT_Y, BOLT_R = 116, 20, 5.5

doc, msp = new_sheet()
front, top, right = ViewPen(msp, (80, 90)), ViewPen(msp, (80, 225)), ViewPen(msp, (310, 90))

slope = (RIB_HIGH - H) / (RIB_TO - (BOSS_X + BOSS_R))
near = BOSS_X + math.sqrt(BOSS_R ** 2 - (RIB / 2) ** 2)  # where a side of the rib meets the boss


def rib_top(x):
    return H + slope * (RIB_TO - x)


# front view (X, Z): the top of the rib is seen edge-on and ends at its side's meeting with the boss
front.chain([(0, 0), (L, 0), (L, H), (0, H)], close=True)
front.chain([(BOSS_X - BOSS_R, H), (BOSS_X - BOSS_R, TOP), (BOSS_X + BOSS_R, TOP), (BOSS_X + BOSS_R, RIB_HIGH)])
front.chain([(RIB_TO, H), (near, rib_top(near)), (near, H)])
for s in (1, -1):
    front.line(BOSS_X + s * BORE_R, 0, BOSS_X + s * BORE_R, TOP, "HIDDEN")
    front.line(BOLT_X + s * BOLT_R, 0, BOLT_X + s * BOLT_R, H, "HIDDEN")
front.line(BOSS_X, -4, BOSS_X, TOP + 4, "CENTRE")
front.line(BOLT_X, -4, BOLT_X, H + 4, "CENTRE")

# top view (X, Y)
h = W / 2
top.line(CORNER, -h, L - CORNER, -h)
top.line(L, CORNER - h, L, h - CORNER)
top.line(L - CORNER, h, CORNER, h)
top.line(0, h - CORNER, 0, CORNER - h)
for x, y, a in ((CORNER, CORNER - h, 180), (L - CORNER, CORNER - h, 270), (L - CORNER, h - CORNER, 0), (CORNER, h - CORNER, 90)):
    top.arc(x, y, CORNER, a, a + 90)
for r in (BOSS_R, BORE_R):
    top.circle(BOSS_X, 0, r)
top.cross(BOSS_X, 0, BOSS_R + 4)
top.chain([(near, -RIB / 2), (RIB_TO, -RIB / 2), (RIB_TO, RIB / 2), (near, RIB / 2)])
for y in (BOLT_Y, -BOLT_Y):
    top.circle(BOLT_X, y, BOLT_R)
    top.cross(BOLT_X, y, BOLT_R + 3)

# right view (Y, Z)
right.line(0, -4, 0, TOP + 4, "CENTRE")
right.chain([(-h, 0), (h, 0), (h, H), (-h, H)], close=True)
right.chain([(-BOSS_R, H), (-BOSS_R, TOP), (BOSS_R, TOP), (BOSS_R, H)])
for s in (1, -1):
    right.line(s * RIB / 2, H, s * RIB / 2, rib_top(near))
    right.line(s * BORE_R, 0, s * BORE_R, TOP, "HIDDEN")
    for e in (1, -1):
        right.line(s * BOLT_Y + e * BOLT_R, 0, s * BOLT_Y + e * BOLT_R, H, "HIDDEN")
    right.line(s * BOLT_Y, -4, s * BOLT_Y, H + 4, "CENTRE")
# The top of the rib ends on the boss: z = rib_top(BOSS_X + sqrt(r^2 - y^2)), a piece of an ellipse round (0, rib_top(BOSS_X)).
msp.add_ellipse(right.p(0, rib_top(BOSS_X)), major_axis=(0, -slope * BOSS_R), ratio=1 / slope,
                start_param=-math.asin(RIB / 2 / BOSS_R), end_param=math.asin(RIB / 2 / BOSS_R),
                dxfattribs={"layer": "OUTLINE"})

front.across(0, L, 0, 0, -18)
front.upright(0, H, 0, 0, -14)
front.upright(0, TOP, 0, BOSS_X - BOSS_R, -26)
front.upright(H, RIB_HIGH, L, BOSS_X + BOSS_R, L + 14)
top.upright(-h, h, 0, 0, -14)
top.across(0, BOSS_X, -h, 0, -h - 12)
top.across(BOSS_X, BOLT_X, 0, -BOLT_Y, -h - 12)
top.across(BOSS_X, RIB_TO, 0, RIB / 2, h + 12)
top.upright(-BOLT_Y, BOLT_Y, BOLT_X, BOLT_X, L + 14)
top.radius(CORNER, h - CORNER, CORNER, 135)
top.diameter(BOSS_X, 0, BOSS_R, 150)
top.diameter(BOSS_X, 0, BORE_R, 30)
top.diameter(BOLT_X, BOLT_Y, BOLT_R, 45, "2x <>")
right.across(-RIB / 2, RIB / 2, rib_top(near), rib_top(near), TOP + 14)

border(msp, 420, 297, [
    ("Title", "STAY BRACKET"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-118-03"), ("Material", "CAST IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
