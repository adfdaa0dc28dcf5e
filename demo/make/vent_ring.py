"""The vent ring of the lantern dome: a flanged ring with six holes on a pitch circle. Third angle, front and top view, full
size."""
import math
import sys

from sheet import ViewPen, border, new_sheet

# Turned about Z. All mm.
FLANGE_R, HUB_R, BORE_R = 50, 35, 25
FLANGE_H, H = 12, 30
HOLES, HOLE_R, PITCH_R = 6, 4.5, 42.5

doc, msp = new_sheet()
front, top = ViewPen(msp, (110, 80)), ViewPen(msp, (110, 190))

front.chain([(-FLANGE_R, 0), (FLANGE_R, 0), (FLANGE_R, FLANGE_H), (HUB_R, FLANGE_H), (HUB_R, H), (-HUB_R, H),
             (-HUB_R, FLANGE_H), (-FLANGE_R, FLANGE_H)], close=True)
front.line(-HUB_R, FLANGE_H, HUB_R, FLANGE_H)
front.line(0, -5, 0, H + 5, "CENTRE")
for s in (1, -1):
    front.line(s * BORE_R, 0, s * BORE_R, H, "HIDDEN")
    for x in (PITCH_R, PITCH_R * math.cos(math.pi / 3)):
        for e in (1, -1):
            front.line(s * x + e * HOLE_R, 0, s * x + e * HOLE_R, FLANGE_H, "HIDDEN")
        front.line(s * x, -4, s * x, FLANGE_H + 4, "CENTRE")

for r in (FLANGE_R, HUB_R, BORE_R):
    top.circle(0, 0, r)
top.circle(0, 0, PITCH_R, "CENTRE")
top.cross(0, 0, FLANGE_R + 5)
for k in range(HOLES):
    a = 2 * math.pi * k / HOLES
    top.circle(PITCH_R * math.cos(a), PITCH_R * math.sin(a), HOLE_R)

front.across(-FLANGE_R, FLANGE_R, 0, 0, -20)
front.across(-HUB_R, HUB_R, H, H, H + 14)
front.upright(0, FLANGE_H, FLANGE_R, FLANGE_R, FLANGE_R + 12)
front.upright(0, H, FLANGE_R, HUB_R, FLANGE_R + 24)
top.diameter(0, 0, BORE_R, 30)
top.diameter(PITCH_R, 0, HOLE_R, 40, "6x <>")
top.diameter(0, 0, PITCH_R, 100)

border(msp, 297, 280, [
    ("Title", "VENT RING"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-121-02"), ("Material", "TIN BRONZE"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
