"""The hinge block of the lantern-room door: third angle, front, top and right view, full size. The blind hole for the
pintle is shown in a broken-out section of the front view, which has no cutting line."""
import sys

from sheet import ViewPen, border, new_sheet

# Model: X to the right, Y to the back, Z up. All mm.
L, W, H = 120, 50, 40
PINTLE_X, PINTLE_Y, PINTLE_R, PINTLE_FLOOR = 30, 20, 10, 15
BOLT_X, BOLT_Y, BOLT_R = 90, 25, 8

doc, msp = new_sheet()
doc.layers.add("FREEHAND", color=4, linetype="CONTINUOUS", dxfattribs={"lineweight": 18})
doc.layers.add("HATCH", color=8, linetype="CONTINUOUS", dxfattribs={"lineweight": 18})
front, top, right = ViewPen(msp, (80, 90)), ViewPen(msp, (80, 180)), ViewPen(msp, (260, 90))

# front view (X, Z), broken open round the pintle hole
front.chain([(0, 0), (L, 0), (L, H), (0, H)], close=True)
for s in (1, -1):
    front.line(PINTLE_X + s * PINTLE_R, PINTLE_FLOOR, PINTLE_X + s * PINTLE_R, H)
    front.line(BOLT_X + s * BOLT_R, 0, BOLT_X + s * BOLT_R, H, "HIDDEN")
front.line(PINTLE_X - PINTLE_R, PINTLE_FLOOR, PINTLE_X + PINTLE_R, PINTLE_FLOOR)
edge = msp.add_spline([front.p(x, z) for x, z in ((12, H), (9.5, 25), (14, 10), (30, 6.5), (43, 11), (49, 27), (47, H))],
                      dxfattribs={"layer": "FREEHAND"})
hatch = msp.add_hatch(dxfattribs={"layer": "HATCH"})
hatch.set_pattern_fill("ANSI31", scale=0.6)
round_it = [(p.x, p.y) for p in edge.construction_tool().flattening(0.01)] if edge.control_points else None
if round_it is None:
    from ezdxf.math import fit_points_to_cad_cv
    curve = fit_points_to_cad_cv(edge.fit_points)
    edge.control_points, edge.knots = curve.control_points, curve.knots()
    round_it = [(p.x, p.y) for p in curve.flattening(0.01)]
pocket = [front.p(PINTLE_X + s * PINTLE_R, z) for s, z in ((1, H), (1, PINTLE_FLOOR), (-1, PINTLE_FLOOR), (-1, H))]
hatch.paths.add_polyline_path(round_it + pocket, is_closed=True)
for x in (PINTLE_X, BOLT_X):
    front.line(x, -4, x, H + 4, "CENTRE")

# top view (X, Y) and right view (Y, Z)
top.chain([(0, 0), (L, 0), (L, W), (0, W)], close=True)
right.chain([(0, 0), (W, 0), (W, H), (0, H)], close=True)
for x, y, r, floor in ((PINTLE_X, PINTLE_Y, PINTLE_R, PINTLE_FLOOR), (BOLT_X, BOLT_Y, BOLT_R, 0)):
    top.circle(x, y, r)
    top.cross(x, y, r + 4)
    for s in (1, -1):
        right.line(y + s * r, floor, y + s * r, H, "HIDDEN")
    right.line(y, floor - 4, y, H + 4, "CENTRE")
right.line(PINTLE_Y - PINTLE_R, PINTLE_FLOOR, PINTLE_Y + PINTLE_R, PINTLE_FLOOR, "HIDDEN")

front.across(0, PINTLE_X, 0, 0, -12)
front.across(PINTLE_X, BOLT_X, 0, 0, -12)
front.across(0, L, 0, 0, -24)
front.upright(0, H, 0, 0, -14)
front.upright(PINTLE_FLOOR, H, PINTLE_X - PINTLE_R, PINTLE_X - PINTLE_R, -28)
top.upright(0, W, L, L, L + 26)
top.upright(0, BOLT_Y, L, BOLT_X, L + 14)
top.upright(0, PINTLE_Y, 0, PINTLE_X, -14)
top.diameter(PINTLE_X, PINTLE_Y, PINTLE_R, 50)
top.diameter(BOLT_X, BOLT_Y, BOLT_R, 50)

border(msp, 420, 297, [
    ("Title", "HINGE BLOCK"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-117-04"), ("Material", "CAST IRON"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
