"""The foot of the tower stair's rail: a base and an upright with a rib between them, the upright sloped off at the back and
one corner of the base cut by a plane askew. Third angle, front, top and right view, full size."""
import sys

from sheet import ViewPen, border, new_sheet

# All mm.
L, W, T = 110, 50, 16          # base
UP_L, H = 22, 72               # upright
SLOPE_X, SLOPE_Z = 10, 12      # what is sloped off its top
RIB_X, RIB_Z, RIB_T = 80, 54, 10
CUT_X, CUT_Y, CUT_Z = 14, 18, 9  # the corner that is cut off

doc, msp = new_sheet()
front, top, right = ViewPen(msp, (70, 90)), ViewPen(msp, (70, 200)), ViewPen(msp, (250, 90))
RIB_Y0, RIB_Y1 = (W - RIB_T) / 2, (W + RIB_T) / 2

front.chain([(0, 0), (L, 0), (L, T - CUT_Z), (L - CUT_X, T), (UP_L, T), (UP_L, H), (SLOPE_X, H), (0, H - SLOPE_Z)],
            close=True)
front.line(L - CUT_X, T, L, T)          # the base behind the cut corner
front.line(L, T - CUT_Z, L, T)
front.line(UP_L, RIB_Z, RIB_X, T)       # the rib

top.chain([(0, 0), (L - CUT_X, 0), (L, CUT_Y), (L, W), (0, W)], close=True)
top.chain([(L - CUT_X, 0), (L, 0), (L, CUT_Y)])
top.line(UP_L, 0, UP_L, W)
top.line(SLOPE_X, 0, SLOPE_X, W)
for y in (RIB_Y0, RIB_Y1):
    top.line(UP_L, y, RIB_X, y)
top.line(RIB_X, RIB_Y0, RIB_X, RIB_Y1)

right.chain([(0, 0), (W, 0), (W, H), (0, H)], close=True)
right.line(0, H - SLOPE_Z, W, H - SLOPE_Z, "HIDDEN")
right.chain([(CUT_Y, T), (W, T)])
right.line(0, T - CUT_Z, CUT_Y, T)
right.line(0, T, CUT_Y, T)
for y in (RIB_Y0, RIB_Y1):
    right.line(y, T, y, RIB_Z)
right.line(RIB_Y0, RIB_Z, RIB_Y1, RIB_Z)

top.line(-6, W / 2, L + 6, W / 2, "CENTRE")
right.line(W / 2, -6, W / 2, H + 6, "CENTRE")

front.across(0, L, 0, 0, -16)
front.across(0, UP_L, H, H, H + 22)
front.across(0, SLOPE_X, H - SLOPE_Z, H, H + 10)
front.upright(0, H, 0, 0, -26)
front.upright(H - SLOPE_Z, H, 0, 0, -14)
front.upright(0, T, L, L - CUT_X, L + 26)
front.upright(0, T - CUT_Z, L, L, L + 14)
front.upright(T, RIB_Z, RIB_X, UP_L, RIB_X + 10)
top.across(0, RIB_X, W, RIB_Y1, W + 10)
top.across(L - CUT_X, L, 0, CUT_Y, -12)
top.upright(0, W, L, L, L + 26)
top.upright(0, CUT_Y, L - CUT_X, L, L + 14)
right.across(RIB_Y0, RIB_Y1, RIB_Z, RIB_Z, H + 10)

border(msp, 420, 297, [
    ("Title", "STAIR FOOT"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-103-01"), ("Material", "CAST IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
