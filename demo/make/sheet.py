"""Shared parts of the demo sheets: layers, line types, border, title block, dimension style.

The sheets are made with a DXF library of their own, so that the program is never tested on its own writing.
Run:  /usr/bin/python3 demo/make/roller_bracket.py demo/roller-bracket.dxf
"""
import ezdxf

LAYERS = {
    "OUTLINE": (7, "CONTINUOUS"),
    "HIDDEN": (3, "HIDDEN"),
    "CENTRE": (1, "CENTER"),
    "DIMENSION": (4, "CONTINUOUS"),
    "BORDER": (8, "CONTINUOUS"),
    "TEXT": (2, "CONTINUOUS"),
}


def new_sheet():
    doc = ezdxf.new("R2000", setup=False)
    doc.header["$INSUNITS"] = 4
    doc.header["$LTSCALE"] = 1.0
    doc.linetypes.add("HIDDEN", [4.5, 3.0, -1.5], description="Hidden __ __ __")
    doc.linetypes.add("CENTER", [16.0, 10.0, -2.0, 2.0, -2.0], description="Centre ____ _ ____")
    for name, (color, line_type) in LAYERS.items():
        doc.layers.add(name, color=color, linetype=line_type)
    style = doc.dimstyles.duplicate_entry("Standard", "SABLE")
    style.dxf.dimtxt = 3.5
    style.dxf.dimasz = 3.0
    style.dxf.dimexo = 1.0
    style.dxf.dimexe = 1.5
    style.dxf.dimgap = 1.0
    style.dxf.dimtad = 1
    style.dxf.dimdec = 2
    style.dxf.dimzin = 8
    style.dxf.dimdsep = ord(".")
    style.dxf.dimtih = 0
    style.dxf.dimtoh = 0
    return doc, doc.modelspace()


class ViewPen:
    """Draws in one view's own coordinates, placed on the sheet by an origin."""

    def __init__(self, msp, origin, mirror_x=False):
        self.msp, self.o, self.m = msp, origin, -1 if mirror_x else 1

    def p(self, x, y):
        return (self.o[0] + self.m * x, self.o[1] + y)

    def line(self, x0, y0, x1, y1, layer="OUTLINE"):
        self.msp.add_line(self.p(x0, y0), self.p(x1, y1), dxfattribs={"layer": layer})

    def chain(self, points, layer="OUTLINE", close=False):
        pts = list(points) + ([points[0]] if close else [])
        for (x0, y0), (x1, y1) in zip(pts, pts[1:]):
            self.line(x0, y0, x1, y1, layer)

    def circle(self, x, y, r, layer="OUTLINE"):
        self.msp.add_circle(self.p(x, y), r, dxfattribs={"layer": layer})

    def arc(self, x, y, r, a0, a1, layer="OUTLINE"):
        self.msp.add_arc(self.p(x, y), r, a0, a1, dxfattribs={"layer": layer})

    def cross(self, x, y, half):
        self.line(x - half, y, x + half, y, "CENTRE")
        self.line(x, y - half, x, y + half, "CENTRE")

    def across(self, x0, x1, y_ref0, y_ref1, y_line, text="<>"):
        """A level dimension from (x0, y_ref0) to (x1, y_ref1) with its line at y_line."""
        self.msp.add_linear_dim(base=self.p(x0, y_line), p1=self.p(x0, y_ref0), p2=self.p(x1, y_ref1), text=text,
                                dimstyle="SABLE", dxfattribs={"layer": "DIMENSION"}).render()

    def upright(self, y0, y1, x_ref0, x_ref1, x_line, text="<>"):
        """An upright dimension from (x_ref0, y0) to (x_ref1, y1) with its line at x_line."""
        self.msp.add_linear_dim(base=self.p(x_line, y0), p1=self.p(x_ref0, y0), p2=self.p(x_ref1, y1), angle=90, text=text,
                                dimstyle="SABLE", dxfattribs={"layer": "DIMENSION"}).render()

    def diameter(self, x, y, r, angle, text="<>"):
        self.msp.add_diameter_dim(center=self.p(x, y), radius=r, angle=angle, text=text, dimstyle="SABLE",
                                  override={"dimtoh": 1}, dxfattribs={"layer": "DIMENSION"}).render()

    def radius(self, x, y, r, angle, text="<>"):
        self.msp.add_radius_dim(center=self.p(x, y), radius=r, angle=angle, text=text, dimstyle="SABLE",
                                override={"dimtoh": 1}, dxfattribs={"layer": "DIMENSION"}).render()


def border(msp, width, height, rows):
    """Frame and title block (ISO 5457, ISO 7200), lower right. rows: list of (label, value)."""
    def box(x0, y0, x1, y1):
        pts = [(x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)]
        for a, b in zip(pts, pts[1:]):
            msp.add_line(a, b, dxfattribs={"layer": "BORDER"})

    box(0, 0, width, height)
    box(10, 10, width - 10, height - 10)
    w, h = 100, 8
    x1, y0 = width - 10, 10
    x0, y1 = x1 - w, y0 + h * len(rows)
    box(x0, y0, x1, y1)
    for i, (label, value) in enumerate(rows):
        y = y1 - h * (i + 1)
        if i + 1 < len(rows):
            msp.add_line((x0, y), (x1, y), dxfattribs={"layer": "BORDER"})
        msp.add_text(label, dxfattribs={"layer": "TEXT", "height": 2.0, "insert": (x0 + 2, y + 3)})
        msp.add_text(value, dxfattribs={"layer": "TEXT", "height": 3.5, "insert": (x0 + 30, y + 2.2)})
    msp.add_line((x0 + 27, y0), (x0 + 27, y1), dxfattribs={"layer": "BORDER"})
