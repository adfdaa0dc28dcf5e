"""The bracket of the lens-carriage roller: third angle, front, top and right view, full size.

With --revised: as somebody left it after a revision that did not reach every view. The top view is 0.4 mm longer, one
text says another height than is drawn, and an outline is open by 0.3 mm.
"""
import sys

from sheet import ViewPen, border, new_sheet

# Model: X right, Y away from the viewer of the front view, Z up. All mm.
L, D = 120, 60            # base
T = 14                    # base thickness
STEP_X, STEP_Z = 92, 8    # step at the right end of the base
UX0, UX1 = 22, 62         # upright, across
UY0, UY1 = 10, 30         # upright, in depth
BX, BZ, R = 42, 62, 20    # bore centre, rounded end
BORE = 16
AX, AY, AZ = 12, 40, 30   # stop block: 0..AX, AY..D, up to AZ
PX, PY0, PY1, PZ = 106, 8, 26, 30  # pad: PX..L, PY0..PY1, from the step up to PZ; as high as the block by chance
HX, HY0, HY1, HOLE = 78, 14, 46, 9
SX0, SX1, SY, SR = 28, 48, 44, 5.5

REVISED = "--revised" in sys.argv
TOP_L = L + 0.4 if REVISED else L

doc, msp = new_sheet()
front, top, right = ViewPen(msp, (70, 70)), ViewPen(msp, (70, 190)), ViewPen(msp, (236, 70))

# front view (X, Z), seen from -Y
front.chain([(0, 0), (L, 0), (L, STEP_Z)])
front.line(L, STEP_Z, L, PZ)
front.chain([(L, PZ), (PX, PZ), (PX, STEP_Z)])
front.chain([(L, STEP_Z), (STEP_X, STEP_Z), (STEP_X, T), (0, T), (0, 0)])
front.chain([(0, T), (0, AZ), (AX, AZ), (AX, T)])
front.line(UX0, T, UX0, BZ)
front.line(UX1, T, UX1, BZ)
front.arc(BX, BZ, R, 0, 180)
front.circle(BX, BZ, BORE / 2)
for x in (HX - HOLE / 2, HX + HOLE / 2):
    front.line(x, 0, x, T, "HIDDEN")
for x in (SX0 - SR, SX1 + SR):
    front.line(x, 0, x, T, "HIDDEN")
front.cross(BX, BZ, R + 6)
front.line(HX, -4, HX, T + 4, "CENTRE")

# top view (X, Y), seen from +Z
top.chain([(0, 0), (TOP_L, 0), (TOP_L, D), (0, D)], close=True)
top.line(STEP_X, 0, STEP_X, D)
top.chain([(UX0, UY0), (UX1, UY0), (UX1, UY1), (UX0, UY1)], close=True)
top.chain([(AX, D), (AX, AY), (0, AY)])
top.chain([(TOP_L, PY0), (PX, PY0), (PX, PY1), (TOP_L, PY1)])
for y in (HY0, HY1):
    top.circle(HX, y, HOLE / 2)
    top.cross(HX, y, HOLE / 2 + 4)
top.line(SX0, SY - SR, SX1, SY - SR)
top.line(SX0, SY + SR, SX1, SY + SR)
top.arc(SX0, SY, SR, 90, 270)
top.arc(SX1, SY, SR, 270, 90)
top.line(SX0 - SR - 4, SY, SX1 + SR + 4, SY, "CENTRE")
top.line(SX0, SY - SR - 3, SX0, SY + SR + 3, "CENTRE")
top.line(SX1, SY - SR - 3, SX1, SY + SR + 3, "CENTRE")
for x in (BX - BORE / 2, BX + BORE / 2):
    top.line(x, UY0, x, UY1, "HIDDEN")
top.line(BX, UY0 - 4, BX, UY1 + 4, "CENTRE")

# right view (Y, Z), seen from +X
right.chain([(0, 0), (D, 0), (D, T)])
right.line(0, 0, 0, T)
right.line(0, T, PY0, T)
right.line(PY1, T, AY, T)
right.line(0, STEP_Z, PY0, STEP_Z)
right.line(PY1, STEP_Z, D, STEP_Z)
right.line(AY, T, D, T)
right.line(PY0, T, PY1, T, "HIDDEN")
right.line(PY0, STEP_Z, PY1, STEP_Z, "HIDDEN")
right.chain([(PY0, STEP_Z), (PY0, PZ), (PY1, PZ), (PY1, STEP_Z)])
right.chain([(AY, T), (AY, AZ), (D, AZ), (D, T)])
TOP_Z = BZ + R
right.line(UY0, PZ, UY0, TOP_Z)
right.line(UY0, TOP_Z, UY1 - (0.3 if REVISED else 0), TOP_Z)
right.line(UY1, TOP_Z, UY1, T)
right.line(UY0, T, UY0, PZ, "HIDDEN")
for z in (BZ - BORE / 2, BZ + BORE / 2):
    right.line(UY0, z, UY1, z, "HIDDEN")
for yc in (HY0, HY1):
    for y in (yc - HOLE / 2, yc + HOLE / 2):
        right.line(y, 0, y, T, "HIDDEN")
for y in (SY - SR, SY + SR):
    right.line(y, 0, y, T, "HIDDEN")
right.line(UY0 - 5, BZ, UY1 + 5, BZ, "CENTRE")

# dimensions
front.across(0, L, 0, 0, -26)
front.across(0, STEP_X, 0, STEP_Z, -16)
front.upright(0, T, 0, 0, -12)
front.upright(0, AZ, 0, 0, -24)
front.upright(0, STEP_Z, L, L, L + 10)
front.upright(0, PZ, L, L, L + 20)
front.upright(0, BZ, 0, BX, -36, "64" if REVISED else "<>")
front.across(0, BX, T, BZ, BZ + R + 12)
front.across(0, AX, AZ, AZ, AZ + 9)
front.across(PX, L, PZ, PZ, PZ + 9)
front.radius(BX, BZ, R, 35)
front.diameter(BX, BZ, BORE / 2, -35)
top.upright(0, D, 0, 0, -14)
top.upright(AY, D, AX, AX, AX + 8)
top.upright(0, HY0, L, HX, L + 12)
top.upright(HY0, HY1, HX, HX, HX + 11)
top.across(0, HX, D, HY1, D + 20)
top.across(SX0, SX1, SY, SY, D + 9)
top.across(0, SX0, D, SY, D + 9)
top.upright(0, SY, 0, SX0, -26)
top.diameter(HX, HY0, HOLE / 2, -50, "2x <>")
top.radius(SX1, SY, SR, 40)
right.across(0, UY0, 0, UY0, -16)
right.across(UY0, UY1, TOP_Z, TOP_Z, TOP_Z + 10)
right.across(PY0, PY1, STEP_Z, STEP_Z, -26)

border(msp, 420, 297, [
    ("Title", "ROLLER BRACKET"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-114-03"), ("Material", "CAST IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
