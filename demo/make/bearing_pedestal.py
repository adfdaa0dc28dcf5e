"""The pedestal of the worm-shaft bearing: third angle, front, top and right view, full size.

With --slips: with eight slips of the pen of different kinds, to show what the checks find and how it is mended.
"""
import sys

from sheet import ViewPen, border, new_sheet

# Model: X right, Y away from the viewer of the front view, Z up. All mm.
L, D, T = 140, 60, 16          # base
UX0, UX1, UY0, UY1 = 40, 100, 18, 42  # upright
H = 70
BX, BZ, BORE = 70, 46, 24
HOLES, HY, HOLE = (20, 120), 30, 12
NOTCH_X, NOTCH_Z = 132, 6      # step at the right end of the base

SLIPS = "--slips" in sys.argv

doc, msp = new_sheet()
front, top, right = ViewPen(msp, (70, 105)), ViewPen(msp, (70, 205)), ViewPen(msp, (275, 105))

# front view (X, Z), seen from -Y
front.chain([(0, 0), (L, 0), (L, NOTCH_Z), (NOTCH_X, NOTCH_Z), (NOTCH_X, T), (UX1, T), (UX1, H), (UX0, H), (UX0, T), (0, T), (0, 0)])
front.line(UX0, T, UX1, T)
front.circle(BX, BZ, BORE / 2)
front.cross(BX, BZ, BORE / 2 + 5)
for x in HOLES:
    for s in (-1, 1):
        front.line(x + s * HOLE / 2, 0, x + s * HOLE / 2, T, "HIDDEN")
    front.line(x, -4, x, T + 4, "CENTRE")

# top view (X, Y), seen from +Z
top.chain([(0, 0), (L, 0), (L, D), (0, D)], close=True)
top.line(NOTCH_X, 0, NOTCH_X, D)
top.chain([(UX0, UY0), (UX1, UY0), (UX1, UY1), (UX0, UY1)], close=True)
for x in HOLES:
    x += 2.5 if SLIPS and x == HOLES[0] else 0
    top.circle(x, HY, HOLE / 2)
    top.cross(x, HY, HOLE / 2 + 4)
for s in (-1, 1):
    top.line(BX + s * BORE / 2, UY0, BX + s * BORE / 2, UY1, "HIDDEN")
top.line(BX, UY0 - 4, BX, UY1 + 4, "CENTRE")

# right view (Y, Z), seen from +X
gap = 0.3 if SLIPS else 0
right.chain([(0, 0), (D, 0), (D, T)])
right.line(D, T, UY1, T)
right.chain([(UY1, T), (UY1, H), (UY0, H)])
right.line(UY0, H - gap, UY0, T)
right.chain([(UY0, T), (0, T), (0, 0)])
right.line(UY0, T, UY1, T)
right.line(0, NOTCH_Z, D, NOTCH_Z)
for s in (-1, 1):
    right.line(UY0, BZ + s * BORE / 2, UY1, BZ + s * BORE / 2, "OUTLINE" if SLIPS and s > 0 else "HIDDEN")
    right.line(HY + s * HOLE / 2, 0, HY + s * HOLE / 2, T, "HIDDEN")
right.line(UY0 - 5, BZ, UY1 + 5, BZ, "CENTRE")
right.line(HY, -4, HY, T + 4, "CENTRE")
if SLIPS:
    front.line(UX0, H, UX0 + 35, H)

# dimensions
front.across(0, UX0, 0, T, -14)
front.across(UX0, UX1, T, T, -14, "58" if SLIPS else "<>")
front.across(UX1, L, T, 0, -14)
front.across(0, L, 0, 0, -26)
front.upright(0, T, 0, 0, -12)
front.upright(0, H, 0, UX0, -24, "72" if SLIPS else "<>")
front.upright(0, BZ, L, BX, L + 22)
front.upright(0, NOTCH_Z, L, L, L + 10)
front.diameter(BX, BZ, BORE / 2, 35, "R24" if SLIPS else "<>")
top.across(HOLES[1], L, HY, D, D + 10)
top.across(NOTCH_X, L, D, D, D + 20)
top.upright(0, D, 0, 0, -14)
top.upright(0, HY, L, HOLES[1], L + 12)
top.diameter(HOLES[1], HY, HOLE / 2, 50, "2x <>")
right.across(0, UY0, T, T, -14)
right.across(UY0, UY1, H, H, H + 10)
right.across(0, D, 0, 0, -26, "62" if SLIPS else "<>")

border(msp, 420, 297, [
    ("Title", "BEARING PEDESTAL"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-115-02"), ("Material", "CAST IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
