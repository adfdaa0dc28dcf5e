"""The oil cup over the drive's main bearing: a tube with a collar round its mouth and a rim round the collar. Third angle, front
and top view, full size."""
import sys

from sheet import ViewPen, border, new_sheet

# Turned about Z. All mm.
CUP_R, BORE_R, COLLAR_R, RIM_R = 36, 32, 52, 49
UNDER, H, RIM_H = 40, 45, 2   # where the collar begins and ends; how far the rim stands over it

doc, msp = new_sheet()
front, top = ViewPen(msp, (110, 80)), ViewPen(msp, (110, 205))

front.chain([(-COLLAR_R, UNDER), (-CUP_R, UNDER), (-CUP_R, 0), (CUP_R, 0), (CUP_R, UNDER), (COLLAR_R, UNDER),
             (COLLAR_R, H + RIM_H), (-COLLAR_R, H + RIM_H)], close=True)
front.line(-CUP_R, UNDER, CUP_R, UNDER)
front.line(-RIM_R, H, RIM_R, H, "HIDDEN")
for s in (1, -1):
    front.line(s * BORE_R, 0, s * BORE_R, H, "HIDDEN")
    front.line(s * RIM_R, H, s * RIM_R, H + RIM_H, "HIDDEN")
front.line(0, -5, 0, H + RIM_H + 5, "CENTRE")

for r in (COLLAR_R, RIM_R, BORE_R):
    top.circle(0, 0, r)
top.circle(0, 0, CUP_R, "HIDDEN")
top.cross(0, 0, COLLAR_R + 5)

front.across(-CUP_R, CUP_R, 0, 0, -16)
front.upright(0, UNDER, CUP_R, COLLAR_R, COLLAR_R + 24)
front.upright(UNDER, H, COLLAR_R, RIM_R, COLLAR_R + 12)
front.upright(H, H + RIM_H, -RIM_R, -COLLAR_R, -COLLAR_R - 12)
top.diameter(0, 0, COLLAR_R, 20)
top.diameter(0, 0, RIM_R, 50)
top.diameter(0, 0, BORE_R, 140)

border(msp, 297, 290, [
    ("Title", "OIL CUP"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-114-11"), ("Material", "BRASS"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
