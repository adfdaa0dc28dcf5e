"""Plants one fault in a sound sheet, as a slip of the pen or of a revision would. Each function takes a Sheet and a random
number generator and gives what was done, or None where the sheet has no place for it."""
import math, re

import ezdxf
from ezdxf.math import Matrix44

ROLES = {"front", "top", "bottom", "left", "right", "rear"}
LENGTHS = {"linear", "aligned", "radius", "diameter"}


class Sheet:
    """A sheet as read, with what is known of it: the box of each view, the layers, the dimensions."""

    def __init__(self, path, truth):
        self.doc, self.truth = ezdxf.readfile(path), truth
        self.space = self.doc.modelspace()
        for block in list(self.space.query("INSERT")):  # views inside blocks
            block.explode()
        self.layers, self.types = truth["layers"], truth.get("linetypes", {})
        self.size = max(v["bbox"][2] - v["bbox"][0] + v["bbox"][3] - v["bbox"][1] for v in truth["views"])
        self.tol = 1e-6 * self.size
        self.dims = [d for d in truth["dimensions"] if d["handle"] in self.doc.entitydb]
        self.views = [v for v in truth["views"] if v["role"] in ROLES]

    def linetype(self, e):
        t = e.dxf.get("linetype", "BYLAYER")
        if t.upper() == "BYLAYER":
            t = self.doc.layers.get(e.dxf.layer).dxf.get("linetype", "CONTINUOUS")
        return t.upper()

    def hidden(self, e):
        return self.linetype(e) == self.types.get("hid", "HIDDEN").upper() or (e.dxf.layer == self.layers["hid"] != self.layers["vis"])

    def centre(self, e):
        return self.linetype(e) == self.types.get("cen", "CENTER").upper() or (e.dxf.layer == self.layers["cen"] != self.layers["vis"])

    def of_view(self, view, kinds=("LINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE", "LWPOLYLINE", "POLYLINE")):
        """All lines within the box of a view: outline, hidden, and centre lines that begin in it."""
        x0, y0, x1, y1 = view["bbox"]
        g = 0.01 * self.size
        r = []
        for e in self.space:
            if e.dxftype() not in kinds or e.dxf.layer in (self.layers["frm"], self.layers["dim"], self.layers["txt"]) or not e.is_alive:
                continue
            points = points_of(e)
            wide = 0.12 * self.size if self.centre(e) else g
            if points and all(x0 - wide <= x <= x1 + wide and y0 - wide <= y <= y1 + wide for x, y in points):
                r.append(e)
        return r

    def part(self, view, **k):
        return [e for e in self.of_view(view, **k) if not self.centre(e)]

    def drop_dimensions(self, role):
        for d in self.dims:
            if d["view"] == role:
                self.space.delete_entity(self.doc.entitydb[d["handle"]])
        self.dims = [d for d in self.dims if d["view"] != role]

    def mm(self, view, sheet):
        return sheet / view["sheet_units_per_mm"]


def points_of(e):
    t = e.dxftype()
    if t == "LINE":
        return [(e.dxf.start.x, e.dxf.start.y), (e.dxf.end.x, e.dxf.end.y)]
    if t in ("CIRCLE", "ARC"):
        c, r = e.dxf.center, e.dxf.radius
        if t == "CIRCLE":
            return [(c.x - r, c.y), (c.x + r, c.y), (c.x, c.y - r), (c.x, c.y + r)]
        return [(c.x + r * math.cos(math.radians(a)), c.y + r * math.sin(math.radians(a))) for a in (e.dxf.start_angle, e.dxf.end_angle)]
    if t == "ELLIPSE":
        return [(p.x, p.y) for p in e.vertices([e.dxf.start_param, e.dxf.end_param])]
    if t == "SPLINE":
        return [(p[0], p[1]) for p in e.control_points]
    if t == "LWPOLYLINE":
        return [(p[0], p[1]) for p in e.get_points()]
    if t == "POLYLINE":
        return [(v.dxf.location.x, v.dxf.location.y) for v in e.vertices]
    return []


def inner(sheet, view, e):
    """Whether no part of a line lies on the border of the view's box."""
    x0, y0, x1, y1 = view["bbox"]
    p = points_of(e)
    g = 0.01 * (x1 - x0 + y1 - y0)
    return not any(all(abs(q[k] - b) < g for q in p) for k, b in ((0, x0), (0, x1), (1, y0), (1, y1)))


def told(kind, view, points=(), handles=(), **numbers):
    return {"type": kind, "view": view["role"] if view else None, "points_sheet": [list(p) for p in points], "handles": list(handles), "numbers": numbers}


def number_of(text):
    m = re.search(r"\d+(?:[.,]\d+)?", text)
    return m


def with_number(sheet, d, value):
    """The text of a dimension with another number in it."""
    decimals = len(d["text"].split("[")[0].partition("." if "." in d["text"] else ",")[2].rstrip("%dcC ")) if ("." in d["text"] or "," in d["text"]) else 0
    text = ("%.*f" % (max(decimals, 1), value)).rstrip("0").rstrip(".")
    shown = float(text)
    if "," in d["text"]:
        text = text.replace(".", ",")
    sign = "%%c" if d["type"] == "diameter" else "R" if d["type"] == "radius" else ""
    count = "%dx " % d["count"] if d.get("count", 1) > 1 else ""
    return count + sign + text, shown


def say(sheet, d, value):
    e = sheet.doc.entitydb[d["handle"]]
    e.dxf.text, shown = with_number(sheet, d, value)
    if e.dxf.get("geometry") and e.dxf.geometry in sheet.doc.blocks:
        for t in sheet.doc.blocks.get(e.dxf.geometry).query("TEXT MTEXT"):
            old = t.text if t.dxftype() == "MTEXT" else t.dxf.text
            m = number_of(old)
            if m:
                new = e.dxf.text
                if t.dxftype() == "MTEXT":
                    t.text = new
                else:
                    t.dxf.text = new
    return shown


def plain_dims(sheet, types=LENGTHS):
    return [d for d in sheet.dims if d["type"] in types and d["text_field"] == "<>" and not d["overridden"] and d["true_mm"] and "[" not in d["text"]]


def per_unit(d):
    return d["true_mm"] / d["true_value"]


def dim_text_wrong(s, rng):
    dims = [d for d in plain_dims(s) if not d.get("chain")]
    if not dims:
        return None
    d = rng.choice(dims)
    wrong = say(s, d, round(d["true_value"] * rng.choice([0.8, 0.88, 1.12, 1.2]) + 0.05, 2))
    if abs(wrong - d["true_value"]) < 0.05 * d["true_value"]:
        return None  # rounding explains it
    return told("dim_text_wrong", {"role": d["view"]}, d["points_sheet"], [d["handle"]], said=wrong * per_unit(d), drawn=d["true_mm"])


def missing_line(s, rng):
    view = rng.choice(s.views)
    lines = [e for e in s.part(view, kinds=("LINE",)) if not s.hidden(e) and inner(s, view, e)]
    if not lines:
        return None
    e = rng.choice(lines)
    p = points_of(e)
    s.space.delete_entity(e)
    return told("missing_line", view, p)


def move(entities, dx, dy):
    for e in entities:
        e.transform(Matrix44.translate(dx, dy, 0))


def shifted_hole(s, rng):
    view = rng.choice(s.views)
    circles = [e for e in s.part(view, kinds=("CIRCLE",))]
    if not circles:
        return None
    c = rng.choice(circles)
    at = c.dxf.center
    group = [e for e in s.of_view(view) if (e.dxftype() in ("CIRCLE", "ARC") and (e.dxf.center - at).magnitude < 1e-5 * s.size)]
    reach = max(e.dxf.radius for e in group) * 1.8
    if any(e.dxftype() == "ARC" for e in group):
        return None
    for e in s.of_view(view, kinds=("LINE",)):
        if s.centre(e):
            m = (e.dxf.start + e.dxf.end) / 2
            if (m - at).magnitude < 1e-3 * s.size and (e.dxf.start - e.dxf.end).magnitude < 2 * reach:
                group.append(e)
    mm = rng.choice([-4, -3, -2.5, -2, 2, 2.5, 3, 4])
    by = mm * view["sheet_units_per_mm"]
    axis = rng.choice("xy")
    move(group, by if axis == "x" else 0, by if axis == "y" else 0)
    return told("shifted_feature", view, [(at.x, at.y), (at.x + (by if axis == "x" else 0), at.y + (by if axis == "y" else 0))],
                [e.dxf.handle for e in group], shift=abs(mm))


AXES = {"front": ("x", "z"), "rear": ("-x", "z"), "top": ("x", "y"), "bottom": ("x", "-y"), "right": ("y", "z"), "left": ("-y", "z")}


def shown_elsewhere(s, view, k, v):
    """Whether another view has a line end at the coordinate: else its move is another part, and no fault."""
    axis = AXES[view["role"]][k]
    lo, hi = view["bbox"][k], view["bbox"][k + 2]
    at = s.mm(view, hi - v if axis[0] == "-" else v - lo)
    for o in s.views:
        for j in (0, 1):
            if o is not view and AXES[o["role"]][j][-1] == axis[-1]:
                a, b = o["bbox"][j], o["bbox"][j + 2]
                for e in s.part(o):
                    for p in points_of(e):
                        if abs(s.mm(o, b - p[j] if AXES[o["role"]][j][0] == "-" else p[j] - a) - at) < 1e-3:
                            return True
    return False


def shifted_step(s, rng):
    view = rng.choice(s.views)
    lines = s.part(view)
    k = rng.choice((0, 1))
    lo, hi = view["bbox"][k], view["bbox"][k + 2]
    whole = [e for e in lines if e.dxftype() == "LINE"]
    values = sorted({round(p[k], 6) for e in whole for p in points_of(e) if lo + 0.08 * (hi - lo) < p[k] < hi - 0.08 * (hi - lo)
                     and abs(points_of(e)[0][k] - points_of(e)[1][k]) < s.tol})
    # nothing round may stand there: it would have to be moved as well
    values = [v for v in values if not any(abs(p[k] - v) < 1e-5 * s.size for e in lines if e.dxftype() != "LINE" for p in points_of(e) + (
        [(e.dxf.center.x, e.dxf.center.y)] if e.dxftype() in ("CIRCLE", "ARC") else []))]
    values = [v for v in values if shown_elsewhere(s, view, k, v)]
    if not values:
        return None
    v = rng.choice(values)
    mm = rng.choice([-3, -2.5, -2, 2, 2.5, 3])
    by = mm * view["sheet_units_per_mm"]
    others = {round(p[k], 6) for e in lines for p in points_of(e)} - {v}
    if any(min(v, v + by) - 1e-4 * s.size < o < max(v, v + by) + 1e-4 * s.size for o in others):
        return None  # it would pass another
    moved, at = [], []
    for e in whole:
        a, b = e.dxf.start, e.dxf.end
        hit = False
        for name, p in (("start", a), ("end", b)):
            if abs((p.x, p.y)[k] - v) < 1e-5 * s.size:
                q = (p.x + by, p.y, 0) if k == 0 else (p.x, p.y + by, 0)
                e.dxf.set(name, q)
                at += [(p.x, p.y), q[:2]]
                hit = True
        if hit:
            moved.append(e.dxf.handle)
    return told("shifted_feature", view, at, moved, shift=abs(mm))


def wrong_scale(s, rng):
    view = rng.choice([v for v in s.views if v["role"] != "front"] or s.views)
    factor = rng.choice([0.9, 0.95, 0.97, 1.03, 1.05, 1.1])
    x0, y0, x1, y1 = view["bbox"]
    x, y = rng.choice([(x0, y0), ((x0 + x1) / 2, (y0 + y1) / 2)])  # what stays in place
    for e in s.of_view(view):
        e.transform(Matrix44.translate(-x, -y, 0) @ Matrix44.scale(factor) @ Matrix44.translate(x, y, 0))
    s.drop_dimensions(view["role"])
    return told("wrong_scale", view, box(view), factor=factor)


def box(v):
    x0, y0, x1, y1 = v["bbox"]
    return [(x0, y0), (x1, y1)]


def lopsided(s, view, k):
    """Whether a view differs from its own mirror image."""
    c = view["bbox"][k] + view["bbox"][k + 2]
    v = {round(p[k] / s.size, 4) for e in s.part(view) for p in points_of(e)}
    return any(round(c / s.size - x, 4) not in v and round(c / s.size - x + 1e-4, 4) not in v and round(c / s.size - x - 1e-4, 4) not in v for x in v)


def mirrored_side(s, rng):
    views = [v for v in s.views if v["role"] in ("left", "right") and lopsided(s, v, 0)]
    if not views or len(s.views) < 2:
        return None
    view = rng.choice(views)
    c = view["bbox"][0] + view["bbox"][2]
    for e in s.of_view(view):
        mirror(e, c)
    s.drop_dimensions(view["role"])
    return told("mirrored_side", view, box(view))


def mirror(e, c):
    t = e.dxftype()
    if t == "LINE":
        a, b = e.dxf.start, e.dxf.end
        e.dxf.start, e.dxf.end = (c - a.x, a.y, 0), (c - b.x, b.y, 0)
    elif t in ("CIRCLE", "ARC"):
        e.dxf.center = (c - e.dxf.center.x, e.dxf.center.y, 0)
        if t == "ARC":
            e.dxf.start_angle, e.dxf.end_angle = (180 - e.dxf.end_angle) % 360, (180 - e.dxf.start_angle) % 360
    else:
        e.transform(Matrix44.translate(-c, 0, 0) @ Matrix44.scale(-1, 1, 1))


def turned_view(s, rng):
    views = [v for v in s.views if v["role"] != "front" and abs((v["bbox"][2] - v["bbox"][0]) - (v["bbox"][3] - v["bbox"][1])) > 0.05 * s.size]
    if not views or len(s.views) < 2:
        return None
    view = rng.choice(views)
    x0, y0, x1, y1 = view["bbox"]
    turned = (x0, y0, x0 + (y1 - y0), y0 + (x1 - x0))
    g = 0.1 * s.size
    if any(v is not view and v["bbox"][0] < turned[2] + g and turned[0] < v["bbox"][2] + g and v["bbox"][1] < turned[3] + g and turned[1] < v["bbox"][3] + g for v in s.truth["views"]):
        return None  # it would lie over another
    m = Matrix44.translate(-x0, -y0, 0) @ Matrix44.z_rotate(math.pi / 2) @ Matrix44.translate(x0 + (y1 - y0), y0, 0)
    for e in s.of_view(view):
        e.transform(m)
    s.drop_dimensions(view["role"])
    return told("turned_view", view, box(view))


def outline_gap(s, rng):
    view = rng.choice(s.views)
    lines = [e for e in s.part(view, kinds=("LINE",)) if not s.hidden(e) and not inner(s, view, e)]
    if not lines:
        return None
    e = rng.choice(lines)
    mm = rng.choice([0.1, 0.15, 0.2, 0.25, 0.3, 0.4])
    gap = mm * view["sheet_units_per_mm"]
    along = (e.dxf.end - e.dxf.start)
    if along.magnitude < 5 * gap:
        return None
    old = e.dxf.end
    e.dxf.end = e.dxf.end - along.normalize(gap)
    if any(other is not e and min(math.dist(p, (old.x, old.y)) for p in points_of(other)) > s.tol and crosses(other, old, s.tol) for other in s.part(view, kinds=("LINE",))):
        return None
    return told("outline_gap", view, [(old.x, old.y)], [e.dxf.handle], gap=mm)


def crosses(e, p, tol):
    a, b = e.dxf.start, e.dxf.end
    u = (b - a)
    if u.magnitude < tol:
        return False
    t = (p - a).dot(u) / u.magnitude ** 2
    return 0 <= t <= 1 and (a + u * t - p).magnitude < tol


def duplicate_lines(s, rng):
    view = rng.choice(s.views)
    lines = [e for e in s.part(view, kinds=("LINE",)) if not s.hidden(e)]
    if not lines:
        return None
    e = rng.choice(lines)
    a, b = rng.choice([(0, 1), (0, 0.6), (0.3, 1), (0.2, 0.7)])
    u = e.dxf.end - e.dxf.start
    copy = s.space.add_line(e.dxf.start + u * a, e.dxf.start + u * b, dxfattribs={"layer": e.dxf.layer, "linetype": e.dxf.get("linetype", "BYLAYER")})
    return told("duplicate_lines", view, points_of(copy), [copy.dxf.handle, e.dxf.handle])


def change_kind(s, rng, to_visible):
    view = rng.choice(s.views)
    kind = lambda e: s.hidden(e) == to_visible
    lines = [e for e in s.part(view, kinds=("LINE",)) if kind(e) and inner(s, view, e)]
    like = [e for v in s.views for e in s.part(v, kinds=("LINE",)) if not kind(e)]
    if not lines or not like:
        return None
    e, l = rng.choice(lines), like[0]
    # one line only: where another runs along it, what it is drawn as changes nothing that can be told
    e.dxf.layer = l.dxf.layer
    e.dxf.linetype = l.dxf.get("linetype", "BYLAYER")
    return told("hidden_as_visible" if to_visible else "visible_as_hidden", view, points_of(e), [e.dxf.handle])


def hidden_as_visible(s, rng):
    return change_kind(s, rng, True)


def visible_as_hidden(s, rng):
    return change_kind(s, rng, False)


def dim_chain(s, rng):
    chains = {}
    for d in plain_dims(s, {"linear", "aligned"}):
        if d.get("chain"):
            chains.setdefault(d["chain"] if not isinstance(d["chain"], dict) else str(d["chain"]), []).append(d)
    chains = [c for c in chains.values() if any(d["chain_total"] for d in c) and len(c) > 2] if chains else []
    if not chains:
        return None
    chain = rng.choice(chains)
    d = rng.choice([d for d in chain if not d["chain_total"]])
    wrong = round(d["true_value"] * rng.choice([0.85, 0.9, 1.1, 1.15]) + 0.05, 2)
    wrong = say(s, d, wrong)
    return told("dim_chain", {"role": d["view"]}, d["points_sheet"], [x["handle"] for x in chain], difference=abs(wrong - d["true_value"]) * per_unit(d))


def dims_disagree(s, rng):
    pairs = [(a, b) for a in plain_dims(s, {"linear", "aligned"}) for b in plain_dims(s, {"linear", "aligned"})
             if a is not b and a["what"].startswith("overall") and a["what"] == b["what"] and a["view"] != b["view"]]
    if not pairs:
        return None
    a, b = rng.choice(pairs)
    wrong = round(a["true_value"] * rng.choice([0.9, 1.1]) + 0.05, 2)
    wrong = say(s, a, wrong)
    return told("dims_disagree", {"role": a["view"]}, a["points_sheet"] + b["points_sheet"], [a["handle"], b["handle"]], said=wrong * per_unit(a))


def swapped_convention(s, rng):
    if s.truth["convention_stated"] != "text" or len(s.views) < 2:
        return None
    done = False
    for t in s.space.query("TEXT MTEXT"):
        text = t.text if t.dxftype() == "MTEXT" else t.dxf.text
        new = re.sub("first|third", lambda m: keep_case(m.group(0)), text, flags=re.I)
        if new != text:
            done = True
            if t.dxftype() == "MTEXT":
                t.text = new
            else:
                t.dxf.text = new
    return told("swapped_convention", None) if done else None


def keep_case(w):
    o = "third" if w.lower() == "first" else "first"
    return o.upper() if w.isupper() else o.capitalize() if w[0].isupper() else o


def missing_view_depth(s, rng):
    if any(v["role"] in ("section", "auxiliary") for v in s.truth["views"]):
        return None
    keep = s.views[0]
    for v in s.views[1:]:
        for e in s.of_view(v):
            s.space.delete_entity(e)
        s.drop_dimensions(v["role"])
    return told("missing_view_depth", keep, box(keep))


def wrong_diameter_sign(s, rng):
    dims = [d for d in plain_dims(s, {"radius", "diameter"}) if d["count"] == 1]
    if not dims:
        return None
    d = rng.choice(dims)
    e = s.doc.entitydb[d["handle"]]
    e.dxf.text = ("R" if d["type"] == "diameter" else "%%c") + d["text"].lstrip("RØ%c⌀ ")
    return told("wrong_diameter_sign", {"role": d["view"]}, d["points_sheet"], [d["handle"]], drawn=d["true_mm"])


def displaced_hidden_line(s, rng):
    view = rng.choice(s.views)
    lines = [e for e in s.part(view, kinds=("LINE",)) if s.hidden(e) and inner(s, view, e)]
    if not lines:
        return None
    e = rng.choice(lines)
    u = (e.dxf.end - e.dxf.start).normalize()
    mm = rng.choice([-3, -2, 2, 3])
    by = mm * view["sheet_units_per_mm"]
    p = points_of(e)
    move([e], -u.y * by, u.x * by)
    return told("displaced_hidden_line", view, p + points_of(e), [e.dxf.handle], shift=abs(mm))


def hole_in_one_view(s, rng):
    drawn = [v for v in s.views if any(s.hidden(e) for e in s.part(v))]
    if len(drawn) < 2:
        return None  # no other view would have to show it
    view = rng.choice(drawn)
    w, h = view["bbox"][2] - view["bbox"][0], view["bbox"][3] - view["bbox"][1]
    for _ in range(30):
        x, y, r = view["bbox"][0] + rng.uniform(0.15, 0.85) * w, view["bbox"][1] + rng.uniform(0.15, 0.85) * h, rng.uniform(0.03, 0.07) * min(w, h)
        near = [q for e in s.part(view) for q in dense(e)]
        if near and min(math.dist(q, (x, y)) for q in near) > 1.3 * r:
            c = s.space.add_circle((x, y), r, dxfattribs={"layer": s.layers["vis"]})
            if s.layers["vis"] == s.layers["hid"]:
                c.dxf.linetype = "CONTINUOUS"
            return told("hole_in_one_view", view, [(x, y)], [c.dxf.handle], radius=s.mm(view, r))
    return None


def missing_section_line(s, rng):
    """A line of a section is not drawn, its hatching is."""
    views = [v for v in s.truth["views"] if v["role"] == "section"]
    if not views:
        return None
    view = rng.choice(views)
    lines = [e for e in s.part(view, kinds=("LINE",)) if e.dxf.layer != s.layers.get("hat") and inner(s, view, e) and math.dist(*points_of(e)) > 0.04 * s.size]
    if not lines:
        return None
    e = rng.choice(lines)
    p = points_of(e)
    s.space.delete_entity(e)
    return told("missing_section_line", view, p)


def missing_cutting_line(s, rng):
    """The line at which a section is cut is not drawn; its letters are, or are not either."""
    cuts = [c for c in s.truth.get("cutting_lines", []) if c["line"] in s.doc.entitydb]
    if not cuts:
        return None
    cut = rng.choice(cuts)
    p = points_of(s.doc.entitydb[cut["line"]])
    for h in [cut["line"]] + (cut["letters"] if rng.random() < 0.5 else []):
        s.space.delete_entity(s.doc.entitydb[h])
    section = next(v for v in s.truth["views"] if v["role"] == "section")
    return told("missing_cutting_line", section, p + box(section))


def dense(e):
    p = points_of(e)
    if e.dxftype() == "LINE":
        return [(p[0][0] + (p[1][0] - p[0][0]) * i / 20, p[0][1] + (p[1][1] - p[0][1]) * i / 20) for i in range(21)]
    if e.dxftype() in ("CIRCLE", "ARC"):
        c, r = e.dxf.center, e.dxf.radius
        return [(c.x + r * math.cos(i * 0.3), c.y + r * math.sin(i * 0.3)) for i in range(21)]
    return p


FAULTS = {f.__name__: f for f in (dim_text_wrong, missing_line, shifted_hole, shifted_step, wrong_scale, mirrored_side, turned_view, outline_gap, duplicate_lines,
                                  hidden_as_visible, visible_as_hidden, dim_chain, dims_disagree, swapped_convention, missing_view_depth, wrong_diameter_sign,
                                  displaced_hidden_line, hole_in_one_view, missing_section_line, missing_cutting_line)}
