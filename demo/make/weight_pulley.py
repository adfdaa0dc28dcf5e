"""The clock-weight pulley: a turned part, third angle, front view (profile) and right view, full size."""
import sys

from sheet import ViewPen, border, new_sheet

# Model: the axis runs along X, radii across it. All mm.
L = 60
RIM0, RIM1, RIM = 12, 44, 55
GROOVE0, GROOVE1, GROOVE = 22, 34, 48
HUB, BORE = 20, 9
SEAT, SEAT_DEPTH = 14, 8

doc, msp = new_sheet()
front, right = ViewPen(msp, (90, 170)), ViewPen(msp, (280, 170))

# front view (X, Z): profile on both sides of the axis
for s in (1, -1):
    front.chain([(0, 0), (0, s * HUB), (RIM0, s * HUB), (RIM0, s * RIM), (GROOVE0, s * RIM), (GROOVE0, s * GROOVE),
                 (GROOVE1, s * GROOVE), (GROOVE1, s * RIM), (RIM1, s * RIM), (RIM1, s * HUB), (L, s * HUB), (L, 0)])
    front.line(0, s * BORE, L - SEAT_DEPTH, s * BORE, "HIDDEN")
    front.line(L - SEAT_DEPTH, s * SEAT, L, s * SEAT, "HIDDEN")
for x, r in ((RIM0, HUB), (RIM1, HUB), (GROOVE0, GROOVE), (GROOVE1, GROOVE)):
    front.line(x, -r, x, r)
front.line(L - SEAT_DEPTH, -SEAT, L - SEAT_DEPTH, SEAT, "HIDDEN")
front.line(-6, 0, L + 6, 0, "CENTRE")

# right view (Y, Z): circles
for r in (RIM, HUB, SEAT, BORE):
    right.circle(0, 0, r)
right.circle(0, 0, GROOVE, "HIDDEN")
right.cross(0, 0, RIM + 6)

front.across(0, L, -HUB, -HUB, -RIM - 26)
front.across(0, RIM0, -HUB, -RIM, -RIM - 14)
front.across(RIM0, RIM1, RIM, RIM, RIM + 24)
front.across(RIM0, GROOVE0, RIM, RIM, RIM + 12)
front.across(GROOVE0, GROOVE1, RIM, RIM, RIM + 12)
front.across(L - SEAT_DEPTH, L, SEAT, SEAT, HUB + 12)
front.upright(-GROOVE, GROOVE, GROOVE0, GROOVE0, -22, "Ø<>")
right.diameter(0, 0, RIM, 40)
right.diameter(0, 0, HUB, 150)
right.diameter(0, 0, SEAT, -25)
right.diameter(0, 0, BORE, 65)

border(msp, 420, 297, [
    ("Title", "CLOCK-WEIGHT PULLEY"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-131-01"), ("Material", "BRONZE"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
