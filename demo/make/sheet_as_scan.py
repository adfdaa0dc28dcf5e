#!/usr/bin/env python3
"""Writes a drawing as the scan of a paper print: turned, stretched by the feed of the scanner, grainy, with a shadow
along the fold. Usage: sheet_as_scan.py IN.dxf OUT.png [DPI [DEGREES [STRETCH]]]"""
import math
import random
import struct
import sys
import zlib

import ezdxf
from ezdxf.bbox import extents

PENS = {"OUTLINE": 0.5, "HIDDEN": 0.35, "CENTRE": 0.25}
DASHES = {"HIDDEN": (3, 1.5), "CENTRE": (9, 1.5, 1.5, 1.5)}
# A plotter's lettering: strokes on a grid 4 wide and 6 high.
GLYPHS = {
    "0": "0,1 0,5 1,6 3,6 4,5 4,1 3,0 1,0 0,1", "1": "1,5 2,6 2,0", "2": "0,5 1,6 3,6 4,5 4,4 0,0 4,0",
    "3": "0,6 4,6 2,4 4,2 4,1 3,0 1,0 0,1", "4": "3,0 3,6 0,2 4,2", "5": "4,6 0,6 0,4 3,4 4,3 4,1 3,0 0,0",
    "6": "4,6 2,6 0,3 0,1 1,0 3,0 4,1 4,2 3,3 0,3", "7": "0,6 4,6 1,0", "8":
    "1,3 0,4 0,5 1,6 3,6 4,5 4,4 3,3 1,3 0,2 0,1 1,0 3,0 4,1 4,2 3,3", "9": "4,3 1,3 0,4 0,5 1,6 3,6 4,5 4,3 2,0 0,0",
    ".": "2,0 2,0.4", ",": "2,0.4 1.6,-1", "-": "0,3 4,3", "+": "0,3 4,3|2,1 2,5", "/": "0,0 4,6", ":": "2,1 2,1.4|2,4 2,4.4",
    "x": "0,0 4,4|0,4 4,0", "°": "1,5 2,6 3,5 2,4 1,5", "Ø": "0,1 0,5 1,6 3,6 4,5 4,1 3,0 1,0 0,1|0,-0.5 4,6.5", "A":
    "0,0 2,6 4,0|1,2 3,2", "B": "0,0 0,6 3,6 4,5 4,4 3,3 0,3|3,3 4,2 4,1 3,0 0,0", "C": "4,5 3,6 1,6 0,5 0,1 1,0 3,0 4,1",
    "D": "0,0 0,6 2,6 4,4 4,2 2,0 0,0", "E": "4,0 0,0 0,6 4,6|0,3 3,3", "F": "0,0 0,6 4,6|0,3 3,3", "G":
    "4,5 3,6 1,6 0,5 0,1 1,0 4,0 4,3 2,3", "H": "0,0 0,6|4,0 4,6|0,3 4,3", "I": "2,0 2,6", "J": "0,1 1,0 3,0 3,6", "K":
    "0,0 0,6|4,6 0,3 4,0", "L": "0,6 0,0 4,0", "M": "0,0 0,6 2,3 4,6 4,0", "N": "0,0 0,6 4,0 4,6", "O":
    "0,1 0,5 1,6 3,6 4,5 4,1 3,0 1,0 0,1", "P": "0,0 0,6 3,6 4,5 4,4 3,3 0,3", "Q":
    "0,1 0,5 1,6 3,6 4,5 4,1 3,0 1,0 0,1|2,2 4,0", "R": "0,0 0,6 3,6 4,5 4,4 3,3 0,3|2,3 4,0", "S":
    "4,5 3,6 1,6 0,5 0,4 4,2 4,1 3,0 1,0 0,1", "T": "2,0 2,6|0,6 4,6", "U": "0,6 0,1 1,0 3,0 4,1 4,6", "V": "0,6 2,0 4,6",
    "W": "0,6 1,0 2,4 3,0 4,6", "X": "0,0 4,6|0,6 4,0", "Y": "0,6 2,3 4,6|2,3 2,0", "Z": "0,6 4,6 0,0 4,0"}


def lettered(words, at, height, turn, halign=-1):
    """Strokes of a text as pairs of points."""
    size = height / 6
    c, s = math.cos(turn), math.sin(turn)
    shift = 0 if halign < 0 else -len(words) * 5.6 * size / (2 if halign == 0 else 1)
    for i, letter in enumerate(words):
        for stroke in GLYPHS.get(letter, GLYPHS.get(letter.upper(), "")).split("|"):
            points = [tuple(map(float, p.split(","))) for p in stroke.split()]
            yield [(at[0] + c * x - s * y, at[1] + s * x + c * y)
                   for x, y in ((shift + (i * 5.6 + px) * size, py * size) for px, py in points)]


def chopped(points, pattern):
    """A chain of points cut into dashes."""
    left, on, k, dash = pattern[0], True, 0, [points[0]]
    for a, b in zip(points, points[1:]):
        length, done = math.dist(a, b), 0.0
        while length - done > left:
            done += left
            p = (a[0] + (b[0] - a[0]) * done / length, a[1] + (b[1] - a[1]) * done / length)
            if on:
                yield dash + [p]
            on, dash, k = not on, [p], (k + 1) % len(pattern)
            left = pattern[k]
        left -= length - done
        if on:
            dash.append(b)
    if on and len(dash) > 1:
        yield dash


def around(c, r, a, sweep):
    n = max(8, int(abs(sweep) * r / 0.3))
    return [(c[0] + r * math.cos(a + sweep * i / n), c[1] + r * math.sin(a + sweep * i / n)) for i in range(n + 1)]


def chains(entity):
    """(points, layer, filled) of an entity, in mm."""
    kind, layer = entity.dxftype(), entity.dxf.layer
    if kind == "LINE":
        yield [tuple(entity.dxf.start)[:2], tuple(entity.dxf.end)[:2]], layer, False
    elif kind == "CIRCLE":
        yield around(entity.dxf.center, entity.dxf.radius, 0, 2 * math.pi), layer, False
    elif kind == "ARC":
        a = math.radians(entity.dxf.start_angle)
        sweep = math.radians((entity.dxf.end_angle - entity.dxf.start_angle) % 360)
        yield around(entity.dxf.center, entity.dxf.radius, a, sweep), layer, False
    elif kind == "SOLID":
        yield [tuple(entity.dxf.get(k))[:2] for k in ("vtx0", "vtx1", "vtx2")], layer, True
    elif kind in ("LWPOLYLINE", "DIMENSION", "INSERT"):
        for part in entity.virtual_entities():
            yield from chains(part)
    elif kind in ("TEXT", "MTEXT"):
        words = entity.dxf.text if kind == "TEXT" else entity.plain_text()
        height = entity.dxf.height if kind == "TEXT" else entity.dxf.char_height
        turn = math.radians(entity.dxf.rotation) if entity.dxf.hasattr("rotation") else 0
        p = entity.dxf.insert
        if kind == "MTEXT":
            p = (p[0] + height / 2 * math.sin(turn), p[1] - height / 2 * math.cos(turn))
        for stroke in lettered(words, p, height, turn, -1 if kind == "TEXT" else 0):
            yield stroke, "LETTERING", False


class Paper:
    def __init__(self, width, height):
        self.w, self.h = width, height
        self.ink = bytearray(width * height)

    def stroke(self, a, b, width):
        """Adds a line with round ends; pixels are covered by as much as they lie within."""
        r = width / 2
        dx, dy = b[0] - a[0], b[1] - a[1]
        square = dx * dx + dy * dy or 1e-12
        steep = abs(dy) > abs(dx)
        lo, hi = (min(a[1], b[1]), max(a[1], b[1])) if steep else (min(a[0], b[0]), max(a[0], b[0]))
        slope = (dx / dy if dy else 0) if steep else (dy / dx if dx else 0)
        reach = (r + 1) * math.hypot(1, slope)
        for i in range(int(lo - r - 1), int(hi + r + 2)):
            m = min(max(i + 0.5, lo), hi)
            mid = a[0] + (m - a[1]) * slope if steep else a[1] + (m - a[0]) * slope
            for j in range(int(mid - reach), int(mid + reach + 1)):
                x, y = (j, i) if steep else (i, j)
                if not (0 <= x < self.w and 0 <= y < self.h):
                    continue
                t = min(1, max(0, ((x + 0.5 - a[0]) * dx + (y + 0.5 - a[1]) * dy) / square))
                d = math.hypot(x + 0.5 - a[0] - t * dx, y + 0.5 - a[1] - t * dy)
                cover = int(255 * min(1, max(0, r + 0.5 - d)))
                k = y * self.w + x
                if cover > self.ink[k]:
                    self.ink[k] = cover

    def fill(self, corners):
        xs, ys = [p[0] for p in corners], [p[1] for p in corners]
        area = sum(a[0] * b[1] - a[1] * b[0] for a, b in zip(corners, corners[1:] + corners[:1]))
        for y in range(max(0, int(min(ys))), min(self.h, int(max(ys)) + 1)):
            for x in range(max(0, int(min(xs))), min(self.w, int(max(xs)) + 1)):
                inside = all(((b[0] - a[0]) * (y + 0.5 - a[1]) - (b[1] - a[1]) * (x + 0.5 - a[0])) * area >= 0
                             for a, b in zip(corners, corners[1:] + corners[:1]))
                if inside:
                    self.ink[y * self.w + x] = 255

    def png(self, dpi, grain, rng):
        rows = []
        for y in range(self.h):
            row = bytearray(1)
            for x in range(self.w):
                shade = 232 - 18 * math.exp(-((x - self.w * 0.5) / 90) ** 2)
                v = shade - self.ink[y * self.w + x] / 255 * (shade - 58) + rng.gauss(0, grain)
                row.append(min(255, max(0, int(v + 0.5))) & 0xF8)
            rows.append(bytes(row))

        def chunk(name, data):
            return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

        per_metre = round(dpi / 0.0254)
        return (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", self.w, self.h, 8, 0, 0, 0, 0)) +
                chunk(b"pHYs", struct.pack(">IIB", per_metre, per_metre, 1)) +
                chunk(b"IDAT", zlib.compress(b"".join(rows), 9)) + chunk(b"IEND", b""))


def main():
    doc = ezdxf.readfile(sys.argv[1])
    dpi = float(sys.argv[3]) if len(sys.argv) > 3 else 200
    turn = math.radians(float(sys.argv[4])) if len(sys.argv) > 4 else math.radians(1.3)
    stretch = float(sys.argv[5]) if len(sys.argv) > 5 else 1.01
    box = extents(doc.modelspace())
    px = dpi / 25.4
    c, s = math.cos(turn), math.sin(turn)
    margin = 12
    w, h = box.size.x, box.size.y
    mid = (box.extmin.x + w / 2, box.extmin.y + h / 2)
    width = int((w * c + h * abs(s) + 2 * margin) * px)
    height = int((w * abs(s) + h * c + 2 * margin) * px * stretch)

    def at(p):
        x, y = p[0] - mid[0], p[1] - mid[1]
        return (width / 2 + (c * x - s * y) * px, height / 2 - (s * x + c * y) * px * stretch)

    paper = Paper(width, height)
    for e in doc.modelspace():
        for points, layer, filled in chains(e):
            if filled:
                paper.fill([at(p) for p in points])
                continue
            for dash in chopped(points, DASHES[layer]) if layer in DASHES else [points]:
                for a, b in zip(dash, dash[1:]):
                    paper.stroke(at(a), at(b), PENS.get(layer, 0.25) * px)
    with open(sys.argv[2], "wb") as f:
        f.write(paper.png(dpi, 3, random.Random(1911)))
    # Where known corners lie, for whoever wants to calibrate it.
    for p in ((box.extmin.x, box.extmin.y), (box.extmax.x, box.extmin.y), (box.extmin.x, box.extmax.y)):
        print("%g,%g at pixel %.2f,%.2f" % (*p, *at(p)))


if __name__ == "__main__":
    main()
