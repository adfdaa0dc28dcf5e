"""The cover of the worm housing: third angle, front and top view, section A-A, a view square onto the sloped face and
a detail, full size. The lubricator boss leans, so that only the auxiliary view shows its pad and its bore true; that
view is drawn in part, without what lies beside the sloped face."""
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
# The lubricator boss on the slope: from its lower end along it, across, how high it stands, its bore and how deep.
PAD0, PAD1, PAD_Y0, PAD_Y1, PAD_H = 12, 38, 13, 37, 3
OIL, OIL_A, OIL_Y, OIL_DEEP = 6, 25, 25, 9

doc, msp = new_sheet()
doc.layers.add("HATCH", color=8)
FX, FY, GAP = 70, 90, 30
front, top = ViewPen(msp, (FX, FY)), ViewPen(msp, (FX, FY + H + GAP))
section = ViewPen(msp, (FX + W + 118, FY))
slope = math.hypot(W - SX, H - SZ)
ux, uz = (SX - W) / slope, (H - SZ) / slope  # up the slope
nx, nz = uz, -ux  # out of the part


def on_slope(along, out=0):
    """A place (X, Z) by its distance up the slope from its lower end, and out of it."""
    return W + ux * along + nx * out, SZ + uz * along + nz * out


# front view (X, Z)
front.chain([(0, 0), (GROOVE_X, 0), (GROOVE_X, GROOVE_D), (GROOVE_X + GROOVE_W, GROOVE_D), (GROOVE_X + GROOVE_W, 0), (W, 0),
             (W, SZ), (SX, H), (0, H)], close=True)
front.circle(BORE_X, BORE_Z, BORE)
front.cross(BORE_X, BORE_Z, BORE + 4)
front.chain([(POCKET0, H), (POCKET0, POCKET_Z), (POCKET1, POCKET_Z), (POCKET1, H)], "HIDDEN")

front.chain([on_slope(PAD0), on_slope(PAD0, PAD_H), on_slope(PAD1, PAD_H), on_slope(PAD1)])
front.chain([on_slope(OIL_A - OIL, PAD_H), on_slope(OIL_A - OIL, PAD_H - OIL_DEEP), on_slope(OIL_A + OIL, PAD_H - OIL_DEEP),
             on_slope(OIL_A + OIL, PAD_H)], "HIDDEN")
front.line(*on_slope(OIL_A, PAD_H + 5), *on_slope(OIL_A, PAD_H - OIL_DEEP - 4), "CENTRE")

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
# The boss seen from above: its lower side leans over its foot.
low, high, foot_low, foot_high = on_slope(PAD0, PAD_H)[0], on_slope(PAD1, PAD_H)[0], on_slope(PAD0)[0], on_slope(PAD1)[0]
top.chain([(foot_high, PAD_Y0), (low, PAD_Y0), (low, PAD_Y1), (foot_high, PAD_Y1)], close=True)
top.line(high, PAD_Y0, high, PAD_Y1)
top.line(foot_low, PAD_Y0, foot_low, PAD_Y1, "HIDDEN")
mouth, bottom = on_slope(OIL_A, PAD_H)[0], on_slope(OIL_A, PAD_H - OIL_DEEP)[0]
flat = abs(ux)  # a circle on the slope, seen from above
reach = math.acos((mouth - bottom) / 2 / (OIL * flat))  # how far round its bottom is seen through its mouth
for x, start, end, layer in ((mouth, 0, 2 * math.pi, "OUTLINE"), (bottom, -reach, reach, "OUTLINE"),
                             (bottom, reach, 2 * math.pi - reach, "HIDDEN")):
    turn = 0 if x == mouth else math.pi / 2  # angles count from X here, in the file from the longer axis, along Y
    msp.add_ellipse(top.p(x, OIL_Y), (0, OIL), flat, start - turn, end - turn, dxfattribs={"layer": layer})
for y in (OIL_Y - OIL, OIL_Y + OIL):
    top.line(bottom, y, mouth, y, "HIDDEN")
top.line(bottom - 10, OIL_Y, mouth + 10, OIL_Y, "CENTRE")

# section A-A at X = CUT, looked at to the left: (Y, Z)
section.chain([(0, 0), (D, 0), (D, H), (D - WALL, H), (D - WALL, POCKET_Z), (WALL, POCKET_Z), (WALL, H), (0, H)], close=True)
for z in (BORE_Z - BORE, BORE_Z + BORE):
    section.line(0, z, WALL, z)
    section.line(D - WALL, z, D, z)
section.line(WALL, H, D - WALL, H)  # the far end of the pocket
section.line(-4, BORE_Z, D + 4, BORE_Z, "CENTRE")
hatch = msp.add_hatch(color=8, dxfattribs={"layer": "HATCH"})
hatch.set_pattern_fill("ANSI31", scale=1.2)
for y0, y1, z0, z1 in ((0, D, 0, None), (0, WALL, BORE_Z + BORE, H), (D - WALL, D, BORE_Z + BORE, H)):
    outline = ([(0, 0), (D, 0), (D, BORE_Z - BORE), (D - WALL, BORE_Z - BORE), (D - WALL, POCKET_Z), (WALL, POCKET_Z),
                (WALL, BORE_Z - BORE), (0, BORE_Z - BORE)] if z1 is None else [(y0, z0), (y1, z0), (y1, z1), (y0, z1)])
    hatch.paths.add_polyline_path([section.p(*p) for p in outline], is_closed=True)
msp.add_text("A-A", dxfattribs={"layer": "TEXT", "height": 5, "insert": section.p(D / 2 - 6, -12)})

# the cutting plane with arrows and letters
front.line(CUT, -10, CUT, H + 10, "CENTRE")
for z, up in ((-10, -1), (H + 10, 1)):
    x, y = front.p(CUT, z)
    msp.add_line((x + 12, y), (x, y), dxfattribs={"layer": "DIMENSION"})
    msp.add_solid([(x, y), (x + 4, y + 0.8), (x + 4, y - 0.8)], dxfattribs={"layer": "DIMENSION"})
    msp.add_text("A", dxfattribs={"layer": "TEXT", "height": 5, "insert": (x + 14, y - 2.5)})

# the view square onto the slope, along its normal from the front view
AWAY = 80


def aux(along, y):
    """A place by its distance up the slope from its lower end and its depth."""
    return (FX + W + ux * along + nx * (AWAY + y), FY + SZ + uz * along + nz * (AWAY + y))


def aux_line(a, b, layer="OUTLINE"):
    msp.add_line(aux(*a), aux(*b), dxfattribs={"layer": layer})


for a, b in (((0, 0), (slope, 0)), ((slope, 0), (slope, D)), ((slope, D), (0, D)), ((0, D), (0, 0))):
    aux_line(a, b)
pad = [(PAD0, PAD_Y0), (PAD1, PAD_Y0), (PAD1, PAD_Y1), (PAD0, PAD_Y1)]
for a, b in zip(pad, pad[1:] + pad[:1]):
    aux_line(a, b)
msp.add_circle(aux(OIL_A, OIL_Y), OIL, dxfattribs={"layer": "OUTLINE"})


def aux_dim(a, b, away):
    """A dimension between two places of the auxiliary view, its line that far beside the first."""
    p, q = aux(*a), aux(*b)
    msp.add_aligned_dim(p1=p, p2=q, distance=away, dimstyle="SABLE", dxfattribs={"layer": "DIMENSION"}).render()


for a, b, away in (((0, D), (PAD0, D), 8), ((0, D), (OIL_A, D), 16), ((PAD0, PAD_Y1), (PAD1, PAD_Y1), 30),
                   ((0, 0), (0, PAD_Y0), -8), ((0, 0), (0, OIL_Y), -16), ((PAD0, PAD_Y0), (PAD0, PAD_Y1), -29)):
    aux_dim(a, b, away)
x, y = aux(OIL_A, OIL_Y)
msp.add_diameter_dim(center=(x, y), radius=OIL, angle=20, dimstyle="SABLE", override={"dimtoh": 1},
                     dxfattribs={"layer": "DIMENSION"}).render()
# detail C, four times: the groove
dx, dy, k = 20, 25, 4
detail = ViewPen(msp, (dx - k * (GROOVE_X - 6) + 6, dy))
detail.chain([(k * (GROOVE_X - 5), 0), (k * GROOVE_X, 0), (k * GROOVE_X, k * GROOVE_D),
              (k * (GROOVE_X + GROOVE_W), k * GROOVE_D), (k * (GROOVE_X + GROOVE_W), 0), (k * (GROOVE_X + GROOVE_W + 5), 0)])
msp.add_text("DETAIL C (4:1)", dxfattribs={"layer": "TEXT", "height": 3.5, "insert": (dx + 20, dy - 9)})
cx, cy = front.p(GROOVE_X + GROOVE_W / 2, 2)
msp.add_circle((cx, cy), 9, dxfattribs={"layer": "DIMENSION"})
msp.add_text("C", dxfattribs={"layer": "TEXT", "height": 5, "insert": (cx + 10, cy - 8)})

for a, b, away in (((PAD1, 0), (PAD1, PAD_H), 8), ((OIL_A + OIL, PAD_H), (OIL_A + OIL, PAD_H - OIL_DEEP), -14)):
    msp.add_aligned_dim(p1=front.p(*on_slope(*a)), p2=front.p(*on_slope(*b)), distance=away, dimstyle="SABLE",
                        dxfattribs={"layer": "DIMENSION"}).render()
front.across(0, W, 0, 0, -24)
front.across(0, BORE_X, 0, BORE_Z, -15)
front.upright(0, BORE_Z, 0, BORE_X, -7)
front.upright(0, H, 0, 0, -16)
front.upright(0, SZ, W, W, W + 14)
front.diameter(BORE_X, BORE_Z, BORE, 150)
front.across(0, GROOVE_X, 0, 0, -33)
top.across(0, SX, D, D, D + 22)
top.across(0, POCKET0, D, D - WALL, D + 14)
top.across(POCKET0, POCKET1, D - WALL, D - WALL, D + 14)
top.upright(0, D, 0, 0, -16)
section.across(0, WALL, H, H, H + 12)
section.across(D - WALL, D, H, H, H + 12)
for p1, p2, base, angle in (((GROOVE_X, GROOVE_D), (GROOVE_X + GROOVE_W, GROOVE_D), (GROOVE_X, GROOVE_D + 2), 0),
                            ((GROOVE_X, 0), (GROOVE_X, GROOVE_D), (GROOVE_X - 8, 0), 90)):
    msp.add_linear_dim(base=detail.p(*(k * v for v in base)), p1=detail.p(*(k * v for v in p1)),
                       p2=detail.p(*(k * v for v in p2)), angle=angle, dimstyle="SABLE", override={"dimlfac": 1 / k},
                       dxfattribs={"layer": "DIMENSION"}).render()
section.upright(0, POCKET_Z, D, D - WALL, D + 14)

border(msp, 420, 297, [
    ("Title", "WORM-HOUSING COVER"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-118-02"), ("Material", "CAST IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
