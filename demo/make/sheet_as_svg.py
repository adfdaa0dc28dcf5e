#!/usr/bin/env python3
"""Writes a drawing as a plain SVG page, as an old sheet often survives: pens instead of layers, dimensions as mere
lines and texts. Usage: sheet_as_svg.py IN.dxf OUT.svg"""
import math
import sys
from xml.sax.saxutils import escape

import ezdxf
from ezdxf.bbox import extents

WIDTH = {"OUTLINE": 0.7, "HIDDEN": 0.35, "CENTRE": 0.25}
DASHES = {"HIDDEN": "3 1.5", "CENTRE": "9 1.5 1.5 1.5"}


def main():
    doc = ezdxf.readfile(sys.argv[1])
    msp = doc.modelspace()
    box = extents(msp)
    x0, y1 = box.extmin.x - 5, box.extmax.y + 5
    w, h = box.size.x + 10, box.size.y + 10
    out = [f'<svg xmlns="http://www.w3.org/2000/svg" width="{w:.3f}mm" height="{h:.3f}mm" viewBox="0 0 {w:.3f} {h:.3f}">',
           '<g fill="none" stroke="#23272c">']

    def xy(p):
        return f"{p[0] - x0:.6f} {y1 - p[1]:.6f}"

    def pen(e):
        layer = e.dxf.layer
        dashes = f' stroke-dasharray="{DASHES[layer]}"' if layer in DASHES else ""
        return f'stroke-width="{WIDTH.get(layer, 0.25)}"{dashes}'

    def draw(e):
        kind = e.dxftype()
        if kind == "LINE":
            out.append(f'<path d="M{xy(e.dxf.start)}L{xy(e.dxf.end)}" {pen(e)}/>')
        elif kind == "CIRCLE":
            c = e.dxf.center
            out.append(f'<circle cx="{c.x - x0:.6f}" cy="{y1 - c.y:.6f}" r="{e.dxf.radius:.6f}" {pen(e)}/>')
        elif kind == "ARC":
            a, b = e.start_point, e.end_point
            sweep = (e.dxf.end_angle - e.dxf.start_angle) % 360
            r = e.dxf.radius
            out.append(f'<path d="M{xy(a)}A{r:.6f} {r:.6f} 0 {int(sweep > 180)} 0 {xy(b)}" {pen(e)}/>')
        elif kind == "LWPOLYLINE":
            for part in e.virtual_entities():
                draw(part)
        elif kind in ("TEXT", "MTEXT"):
            words = e.dxf.text if kind == "TEXT" else e.plain_text()
            size = (e.dxf.height if kind == "TEXT" else e.dxf.char_height) / 0.7
            p = e.dxf.insert
            turn = math.degrees(0) if kind == "TEXT" else e.dxf.rotation
            out.append(f'<text transform="translate({xy(p).replace(" ", ",")}) rotate({-turn:.3f})" font-size="{size:.3f}" '
                       f'stroke="none" fill="#23272c">{escape(words)}</text>')
        elif kind == "DIMENSION":
            for part in e.virtual_entities():
                draw(part)

    for e in msp:
        draw(e)
    out += ["</g>", "</svg>"]
    with open(sys.argv[2], "w", encoding="utf-8") as f:
        f.write("\n".join(out) + "\n")


if __name__ == "__main__":
    main()
