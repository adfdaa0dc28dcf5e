"""A part's views as lines, and a sheet that shows them, written by a DXF library."""
import json, math, subprocess

import ezdxf

from tidy import tidied

VIEWS = {  # name: the way it looks, what is up
    "front": ((0, 1, 0), (0, 0, 1)), "top": ((0, 0, -1), (0, 1, 0)),
    "right": ((-1, 0, 0), (0, 0, 1)), "left": ((1, 0, 0), (0, 0, 1)), "bottom": ((0, 0, 1), (0, -1, 0)),
}


def views_of(part, program):
    """The part's truth and its lines by view."""
    side = part.side
    lines = list(part.ops)
    for v in part.views:
        name = side if v == "side" else v
        look, up = ((-part.face[0], 0, -part.face[1]), (0, 1, 0)) if v == "face" else VIEWS[name]
        cut = part.section and part.section[0] == v
        at = " 0 %.9g 0" % part.section[1] if cut else ""
        lines.append("%s %s %.12g %g %.12g %g %g %g%s" % ("section" if cut else "view", name, *look, *up, at))
    r = subprocess.run([program], input="\n".join(lines) + "\n", capture_output=True, text=True, timeout=120)
    if r.returncode:
        raise RuntimeError(r.stderr)
    truth = json.loads(r.stdout)
    truth["views"] = {v: tidied(lines) for v, lines in truth["views"].items()}
    return truth


def extent(lines):
    xs, ys = [], []
    for c in lines["visible"] + lines["hidden"]:
        for q in (c["from"], c["to"], c["middle"]):
            xs.append(q[0]), ys.append(q[1])
        if c["kind"] == "circle":
            xs += [c["centre"][0] - c["radius"], c["centre"][0] + c["radius"]]
            ys += [c["centre"][1] - c["radius"], c["centre"][1] + c["radius"]]
    return min(xs), min(ys), max(xs), max(ys)


def draw(msp, c, layer, o):
    """Draws a curve, its view's origin moved; an origin of three numbers turns the view as well, radians."""
    turn = o[2] if len(o) > 2 else 0.0
    cos, sin = math.cos(turn), math.sin(turn)

    def spun(q):
        return (cos * q[0] - sin * q[1], sin * q[0] + cos * q[1])

    def at(q):
        q = spun(q)
        return (q[0] + o[0], q[1] + o[1])

    how = {"layer": layer}
    if c["kind"] == "line":
        msp.add_line(at(c["from"]), at(c["to"]), dxfattribs=how)
    elif c["kind"] == "circle":
        msp.add_circle(at(c["centre"]), c["radius"], dxfattribs=how)
    elif c["kind"] == "arc":
        a, b = (math.degrees(turn + math.atan2(q[1] - c["centre"][1], q[0] - c["centre"][0])) for q in (c["from"], c["to"]))
        if not c["turns_left"]:
            a, b = b, a
        msp.add_arc(at(c["centre"]), c["radius"], a, b, dxfattribs=how)
    elif c["kind"] == "ellipse":
        a, b = c["start"], c["end"]
        if not c["turns_left"]:
            a, b = -b, -a
        ratio, major = c["ratio"], c["major"]
        msp.add_ellipse(at(c["centre"]), (*spun(major), 0), ratio, a, b, dxfattribs=how)
    else:
        s = msp.add_spline(degree=c["degree"], dxfattribs=how)
        s.control_points = [(*at(q), 0) for q in c["poles"]]
        s.knots = c["knots"]
        if max(c["weights"]) - min(c["weights"]) > 1e-9:
            s.weights = c["weights"]


def same_place(c, d):
    near = lambda p, q: math.hypot(p[0] - q[0], p[1] - q[1]) < 1e-6
    return near(c["middle"], d["middle"]) and (near(c["from"], d["from"]) and near(c["to"], d["to"]) or
                                               near(c["from"], d["to"]) and near(c["to"], d["from"]))


def moved(b, o):
    return b[0] + o[0], b[1] + o[1], b[2] + o[0], b[3] + o[1]


def beside_face(n, boxes, origin, gap, third):
    """Where an auxiliary view stands: turned up from the front view, square to the face, clear of the others. Its
    origin with its turn, and its box on the sheet."""
    turn, b, way = math.atan2(-n[0], n[1]), boxes["face"], 1 if third else -1
    spun = [(math.cos(turn) * x - math.sin(turn) * y, math.sin(turn) * x + math.cos(turn) * y)
            for x in (b[0], b[2]) for y in (b[1], b[3])]
    own = (min(q[0] for q in spun), min(q[1] for q in spun), max(q[0] for q in spun), max(q[1] for q in spun))
    others = [moved(boxes[v], o) for v, o in origin.items()]
    off = 0.0
    while True:
        box = moved(own, (way * off * n[0], way * off * n[1]))
        if all(box[0] > o[2] + gap or box[2] < o[0] - gap or box[1] > o[3] + gap or box[3] < o[1] - gap for o in others):
            return (way * off * n[0], way * off * n[1], turn), box
        off += 5


def sheet(part, truth, target):
    third = part.third
    doc = ezdxf.new("R2010")
    doc.header["$INSUNITS"] = 4
    doc.linetypes.add("HIDDEN", [4.5, 3.0, -1.5])
    doc.linetypes.add("CENTER", [16.0, 10.0, -2.0, 2.0, -2.0])
    for name, kind in (("OUTLINE", "CONTINUOUS"), ("HIDDEN", "HIDDEN"), ("CENTRE", "CENTER"), ("HATCH", "CONTINUOUS"),
                       ("DIMENSION", "CONTINUOUS"), ("TEXT", "CONTINUOUS")):
        doc.layers.add(name, linetype=kind)
    msp = doc.modelspace()
    boxes = {v: extent(c) for v, c in truth["views"].items()}
    gap = part.gap
    f = boxes["front"]
    origin = {"front": (0.0, 0.0)}
    for v, b in boxes.items():
        if v == "top":
            origin[v] = (0, f[3] + gap - b[1] if third else f[1] - gap - b[3])
        elif v in ("right", "left"):
            beyond = (v == "right") == third
            origin[v] = (f[2] + gap - b[0] if beyond else f[0] - gap - b[2], 0)
    if part.face:
        origin["face"], around = beside_face(part.face, boxes, origin, gap, third)
    for v, lines in truth["views"].items():
        o = origin[v]
        for c in lines["visible"]:
            draw(msp, c, "OUTLINE", o)
        if not lines.get("cut") and v != "face":
            for c in lines["hidden"]:
                if not any(same_place(c, d) for d in lines["visible"]):
                    draw(msp, c, "HIDDEN", o)
        for face in lines.get("cut", []):
            h = msp.add_hatch(dxfattribs={"layer": "HATCH"})
            h.set_pattern_fill("ANSI31", scale=0.8)
            for loop in face:
                h.paths.add_polyline_path([(q[0] + o[0], q[1] + o[1]) for q in loop], is_closed=True)
        b = boxes[v]
        for c in lines["visible"]:
            if c["kind"] == "circle" and not lines.get("cut"):
                r, (x, y) = c["radius"] + 3, c["centre"]
                draw(msp, {"kind": "line", "from": (x - r, y), "to": (x + r, y)}, "CENTRE", o)
                draw(msp, {"kind": "line", "from": (x, y - r), "to": (x, y + r)}, "CENTRE", o)
    for v, horizontal in (("front", True), ("front", False)):
        b, o = boxes[v], origin[v]
        if horizontal:
            msp.add_linear_dim(base=(b[0], b[1] - 9), p1=(b[0], b[1]), p2=(b[2], b[1]), dxfattribs={"layer": "DIMENSION"}).render()
        else:
            msp.add_linear_dim(base=(b[0] - 9, b[1]), p1=(b[0], b[1]), p2=(b[0], b[3]), angle=90, dxfattribs={"layer": "DIMENSION"}).render()
    if part.section:
        # Where the cutting line is drawn: across the view from above, else down the end view, the way it looks there.
        v = "top" if "top" in boxes else part.side
        t, o = boxes[v], origin[v]
        across = v == "top"
        at = part.section[1] + o[1 if across else 0] if across or part.side == "right" else o[0] - part.section[1]
        ends = [q + o[0 if across else 1] for q in ((t[0] - 8, t[2] + 8) if across else (t[1] - 8, t[3] + 8))]
        way = 1 if across or part.side == "right" else -1

        def place(along, off):
            return (along, at + way * off) if across else (at + way * off, along)

        msp.add_line(place(ends[0], 0), place(ends[1], 0), dxfattribs={"layer": "CENTRE"})
        for q in ends:
            msp.add_line(place(q, 0), place(q, 7), dxfattribs={"layer": "OUTLINE"})
            for s in (-1, 1):
                msp.add_line(place(q, 7), place(q + s, 4), dxfattribs={"layer": "OUTLINE"})
            msp.add_text("A", height=3.5, dxfattribs={"layer": "TEXT"}).set_placement(place(q - 1.5, -6))
        msp.add_text("SECTION A-A", height=3.5, dxfattribs={"layer": "TEXT"}).set_placement(((f[0] + f[2]) / 2 - 14, f[3] + 6))
    placed = [around if v == "face" else moved(b, origin[v]) for v, b in boxes.items()]
    right, low = max(b[2] for b in placed), min(b[1] for b in placed)
    msp.add_text("THIRD ANGLE PROJECTION" if third else "FIRST ANGLE PROJECTION", height=3.5,
                 dxfattribs={"layer": "TEXT"}).set_placement((right + 25, low - 22))
    doc.saveas(target)
