"""The cover of the worm housing: third angle, front and top view, section A-A, a view square onto the sloped face and
a detail, full size. The lubricator boss leans, so that only the auxiliary view shows its pad true."""
import math
import sys

from sheet import ViewPen, border, new_sheet

# Model: X right, Y deep, Z up; all mm. A box 100 x 50 x 60 whose right upper corner is cut off by a slope.
W, D, H = 100, 50, 60
SX, SZ = 60, 30  # the slope runs from (SX, H) to (W, SZ)
POCKET0, POCKET1, POCKET_Z, WALL = 15, 45, 20, 10  # a pocket from above, WALL thick in front and behind
BORE_X, BORE_Z, BORE = 30, 34, 8  # across the part, along Y
GROOVE_X, GROOVE_W, GROOVE_D = 78, 6, 4  # in the underside, along Y
CUT = 30  # section A-A

doc, msp = new_sheet()
FX, FY, GAP = 70, 90, 30
front, top = ViewPen(msp, (FX, FY)), ViewPen(msp, (FX, FY + H + GAP))
section = ViewPen(msp, (FX + W + 118, FY))
slope = math.hypot(W - SX, H - SZ)

# front view (X, Z)
front.chain([(0, 0), (GROOVE_X, 0), (GROOVE_X, GROOVE_D), (GROOVE_X + GROOVE_W, GROOVE_D), (GROOVE_X + GROOVE_W, 0), (W, 0),
             (W, SZ), (SX, H), (0, H)], close=True)
front.circle(BORE_X, BORE_Z, BORE)
front.cross(BORE_X, BORE_Z, BORE + 4)
front.chain([(POCKET0, H), (POCKET0, POCKET_Z), (POCKET1, POCKET_Z), (POCKET1, H)], "HIDDEN")

# top view (X, Y)
top.chain([(0, 0), (W, 0), (W, D), (0, D)], close=True)
top.line(SX, 0, SX, D)
top.chain([(POCKET0, WALL), (POCKET1, WALL), (POCKET1, D - WALL), (POCKET0, D - WALL)], close=True)
for x in (BORE_X - BORE, BORE_X + BORE):
    top.line(x, 0, x, WALL, "HIDDEN")
    top.line(x, D - WALL, x, D, "HIDDEN")
for x in (GROOVE_X, GROOVE_X + GROOVE_W):
    top.line(x, 0, x, D, "HIDDEN")
top.line(BORE_X, -4, BORE_X, D + 4, "CENTRE")

# section A-A at X = CUT, looked at to the left: (Y, Z)
section.chain([(0, 0), (D, 0), (D, H), (D - WALL, H), (D - WALL, POCKET_Z), (WALL, POCKET_Z), (WALL, H), (0, H)], close=True)
for z in (BORE_Z - BORE, BORE_Z + BORE):
    section.line(0, z, WALL, z)
    section.line(D - WALL, z, D, z)
section.line(-4, BORE_Z, D + 4, BORE_Z, "CENTRE")
msp.add_text("A-A", dxfattribs={"layer": "TEXT", "height": 5, "insert": section.p(D / 2 - 6, -12)})

# the cutting plane with arrows and letters
front.line(CUT, -10, CUT, H + 10, "CENTRE")
for z, up in ((-10, -1), (H + 10, 1)):
    x, y = front.p(CUT, z)
    msp.add_line((x + 12, y), (x, y), dxfattribs={"layer": "DIMENSION"})
    msp.add_solid([(x, y), (x + 4, y + 0.8), (x + 4, y - 0.8)], dxfattribs={"layer": "DIMENSION"})
    msp.add_text("A", dxfattribs={"layer": "TEXT", "height": 5, "insert": (x + 14, y - 2.5)})

# the view square onto the slope, along its normal from the front view
ux, uz = (SX - W) / slope, (H - SZ) / slope  # up the slope
nx, nz = uz, -ux  # out of the part
AWAY = 80


def aux(along, y):
    """A place by its distance up the slope from its lower end and its depth."""
    return (FX + W + ux * along + nx * (AWAY + y), FY + SZ + uz * along + nz * (AWAY + y))


def aux_line(a, b, layer="OUTLINE"):
    msp.add_line(aux(*a), aux(*b), dxfattribs={"layer": layer})


for a, b in (((0, 0), (slope, 0)), ((slope, 0), (slope, D)), ((slope, D), (0, D)), ((0, D), (0, 0))):
    aux_line(a, b)
pad = [(12, 13), (38, 13), (38, 37), (12, 37)]  # the pad of the lubricator boss, raised a little: outline only
for a, b in zip(pad, pad[1:] + pad[:1]):
    aux_line(a, b)
msp.add_circle(aux(25, 25), 6, dxfattribs={"layer": "OUTLINE"})

# detail C, four times: the groove
dx, dy, k = 20, 25, 4
detail = ViewPen(msp, (dx - k * (GROOVE_X - 6) + 6, dy))
detail.chain([(k * (GROOVE_X - 5), 0), (k * GROOVE_X, 0), (k * GROOVE_X, k * GROOVE_D),
              (k * (GROOVE_X + GROOVE_W), k * GROOVE_D), (k * (GROOVE_X + GROOVE_W), 0), (k * (GROOVE_X + GROOVE_W + 5), 0)])
msp.add_text("DETAIL C (4:1)", dxfattribs={"layer": "TEXT", "height": 3.5, "insert": (dx + 20, dy - 9)})
cx, cy = front.p(GROOVE_X + GROOVE_W / 2, 2)
msp.add_circle((cx, cy), 9, dxfattribs={"layer": "DIMENSION"})
msp.add_text("C", dxfattribs={"layer": "TEXT", "height": 5, "insert": (cx + 10, cy - 8)})

front.across(0, W, 0, 0, -24)
front.upright(0, H, 0, 0, -16)
front.upright(0, SZ, W, W, W + 14)
front.diameter(BORE_X, BORE_Z, BORE, 150)
top.across(0, SX, D, D, D + 14)
top.upright(0, D, 0, 0, -16)
section.across(0, WALL, H, H, H + 12)
section.upright(0, POCKET_Z, D, D - WALL, D + 14)

border(msp, 420, 297, [
    ("Title", "WORM-HOUSING COVER"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-118-02"), ("Material", "CAST IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
