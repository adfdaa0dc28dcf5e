"""The shutter shaft: turned, with a chamfer, a keyway with round ends, a milled flat and a cross hole. Third angle, front,
top and left view, full size."""
import math
import sys

from ezdxf.math import fit_points_to_cad_cv
from sheet import ViewPen, border, new_sheet

# Model: the axis is X; Y to the back, Z up, both from the axis. All mm.
LONG, THIN_R, THICK_R, THICK = 150, 15, 22, (40, 100)  # the thick part runs from 40 to 100
CHAMFER = 2
KEY, KEY_HALF, KEY_FLOOR = (10, 34), 4, 10  # the keyway: from, to; half its width; its floor
FLAT, FLAT_HIGH = 125, 11  # the flat runs from here to the end at this height
HOLE_X, HOLE_R = 70, 4

doc, msp = new_sheet()
front, top, left = ViewPen(msp, (110, 110)), ViewPen(msp, (110, 210)), ViewPen(msp, (50, 110), mirror_x=True)


def curve(view, points):
    spline = fit_points_to_cad_cv([view.p(x, y) for x, y in points])
    msp.add_spline(dxfattribs={"layer": "OUTLINE"}).apply_construction_tool(spline)


def mouth(radius, hole, centre, angles):
    """Where a hole along the depth of a view goes into the shaft: places (x, distance from the axis)."""
    return [(centre + hole * math.cos(a), math.sqrt(radius ** 2 - (hole * math.sin(a)) ** 2)) for a in angles]


def spread(a, b, n=24):
    return [math.radians(a + (b - a) * i / n) for i in range(n + 1)]


# The outline of both long views but for what the keyway, the flat and the hole take of it.
for view in (front, top):
    for s in (1, -1):
        view.chain([(0, s * (THIN_R - CHAMFER)), (CHAMFER, s * THIN_R)])
        view.line(THICK[0], s * THIN_R, THICK[0], s * THICK_R)
        view.line(THICK[1], s * THIN_R, THICK[1], s * THICK_R)
    view.line(0, CHAMFER - THIN_R, 0, THIN_R - CHAMFER)
    view.line(CHAMFER, -THIN_R, CHAMFER, THIN_R)
    view.line(THICK[0], -THIN_R, THICK[0], THIN_R)
    view.line(THICK[1], -THIN_R, THICK[1], THIN_R)
    view.line(-5, 0, LONG + 5, 0, "CENTRE")

# front view (X, Z)
side = math.sqrt(THIN_R ** 2 - KEY_HALF ** 2)
ends = (KEY[0] + KEY_HALF, KEY[1] - KEY_HALF)
front.chain([(CHAMFER, THIN_R), (KEY[0], THIN_R)])
front.chain([(KEY[1], THIN_R), (THICK[0], THIN_R)])
front.chain([(CHAMFER, -THIN_R), (THICK[0], -THIN_R)])
curve(front, mouth(THIN_R, KEY_HALF, ends[0], spread(180, 90)))
front.line(ends[0], side, ends[1], side)
curve(front, mouth(THIN_R, KEY_HALF, ends[1], spread(90, 0)))
front.chain([(KEY[0], THIN_R), (KEY[0], KEY_FLOOR), (KEY[1], KEY_FLOOR), (KEY[1], THIN_R)], "HIDDEN")
for s in (1, -1):
    front.line(THICK[0], s * THICK_R, THICK[1], s * THICK_R)
front.chain([(THICK[1], THIN_R), (FLAT, THIN_R), (FLAT, FLAT_HIGH), (LONG, FLAT_HIGH), (LONG, -THIN_R), (THICK[1], -THIN_R)])
front.circle(HOLE_X, 0, HOLE_R)
front.line(HOLE_X, -HOLE_R - 4, HOLE_X, HOLE_R + 4, "CENTRE")

# top view (X, Y)
for s in (1, -1):
    top.line(CHAMFER, s * THIN_R, THICK[0], s * THIN_R)
    top.line(THICK[1], s * THIN_R, LONG, s * THIN_R)
    top.line(THICK[0], s * THICK_R, HOLE_X - HOLE_R, s * THICK_R)
    top.line(HOLE_X + HOLE_R, s * THICK_R, THICK[1], s * THICK_R)
    curve(top, [(x, s * y) for x, y in mouth(THICK_R, HOLE_R, HOLE_X, spread(180, 0))])
    top.line(HOLE_X + s * HOLE_R, -THICK_R, HOLE_X + s * HOLE_R, THICK_R, "HIDDEN")
    top.line(ends[0], s * KEY_HALF, ends[1], s * KEY_HALF)
top.line(LONG, -THIN_R, LONG, THIN_R)
top.line(HOLE_X, -THICK_R - 4, HOLE_X, THICK_R + 4, "CENTRE")
top.arc(ends[0], 0, KEY_HALF, 90, 270)
top.arc(ends[1], 0, KEY_HALF, 270, 90)
flat = math.sqrt(THIN_R ** 2 - FLAT_HIGH ** 2)
top.chain([(LONG, -flat), (FLAT, -flat), (FLAT, flat), (LONG, flat)])

# left view (Y, Z), looked at from the left: Y runs to the left
for r in (THIN_R - CHAMFER, THIN_R, THICK_R):
    left.circle(0, 0, r)
left.cross(0, 0, THICK_R + 4)
left.chain([(-KEY_HALF, side), (-KEY_HALF, KEY_FLOOR), (KEY_HALF, KEY_FLOOR), (KEY_HALF, side)], "HIDDEN")
left.line(-flat, FLAT_HIGH, flat, FLAT_HIGH, "HIDDEN")
reach = math.sqrt(THICK_R ** 2 - HOLE_R ** 2)
for s in (1, -1):
    left.line(-reach, s * HOLE_R, reach, s * HOLE_R, "HIDDEN")

front.across(0, THICK[0], -THIN_R, -THIN_R, -34)
front.across(THICK[0], THICK[1], -THICK_R, -THICK_R, -34)
front.across(0, LONG, -THIN_R, -THIN_R, -46)
front.across(0, HOLE_X, THIN_R - CHAMFER, HOLE_R, 34)
front.across(FLAT, LONG, THIN_R, FLAT_HIGH, 34)
front.upright(-THIN_R, FLAT_HIGH, LONG, LONG, LONG + 14)
front.diameter(HOLE_X, 0, HOLE_R, 320)
top.across(0, CHAMFER, THIN_R - CHAMFER, THIN_R, 34)
top.across(0, KEY[0], THIN_R - CHAMFER, 0, 44)
top.across(KEY[0], KEY[1], 0, 0, 34)
top.upright(-KEY_HALF, KEY_HALF, ends[0], ends[0], -14)
left.upright(-THIN_R, KEY_FLOOR, 0, KEY_HALF, 34)
left.diameter(0, 0, THIN_R, 215)
left.diameter(0, 0, THICK_R, 235)

border(msp, 420, 297, [
    ("Title", "SHUTTER SHAFT"), ("Site", "SABLE POINT LIGHT"), ("Drawing", "SPL-116-04"), ("Material", "STEEL"),
    ("Scale", "SCALE 1:1"), ("Projection", "THIRD ANGLE"), ("Unit", "ALL SIZES MM"), ("Drawn", "E. MARLOW 1911")])
doc.saveas(sys.argv[1])
