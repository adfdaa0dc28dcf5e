#!/usr/bin/env python3
"""Writes random drawings with an independent library, reads them through the batch door and compares every
entity and number. Usage: random_drawings.py PATH_OF_BATCH_DOOR [drawings] [first seed]"""
import json
import math
import os
import random
import subprocess
import sys
import tempfile

import ezdxf
from ezdxf.math import Matrix44

VERSIONS = ["R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018"]
NAMES = ["OUTLINE", "HIDDEN", "Maße", "CENTRE", "Ølöcher", "0"]
TEXTS = ["Rolle Ø40", "4x ±0,2°", "Größe %%c12 %%p0.1", "SABLE POINT LIGHT", "Čep 30", "SECTION A-A"]
TOLERANCE = 1e-9


class Mismatch(Exception):
    pass


def close(a, b, size):
    return abs(a - b) <= TOLERANCE * max(1.0, size)


def same_point(p, q, size, what):
    if not (close(p[0], q[0], size) and close(p[1], q[1], size)):
        raise Mismatch(f"{what}: {tuple(p)} was written, {tuple(q)} read")


class Case:
    """One drawing: what is written, and how to check what was read of it."""

    def __init__(self, seed):
        self.random = random.Random(seed)
        self.version = self.random.choice(VERSIONS)
        self.doc = ezdxf.new(self.version)
        self.reach = self.random.choice([10.0, 500.0, 4.0e5])
        self.size = self.reach * 2
        for name in NAMES[:-1]:
            self.doc.layers.add(name)
        self.checks = {}  # handle -> function(entity json)
        self.texts = {}  # handle -> content
        self.dims = {}  # handle -> (kind, measured)

    def number(self, scale=1.0):
        return self.random.uniform(-self.reach, self.reach) * scale

    def point(self):
        return (self.number(), self.number())

    def attribs(self):
        return {"layer": self.random.choice(NAMES)}

    # each of these draws one thing into a layout or block and returns a check of the curves read
    def line(self, space):
        a, b = self.point(), self.point()
        e = space.add_line(a, b, self.attribs())
        return e, lambda c, m: self.segment(c[0], m(a), m(b))

    def segment(self, c, a, b):
        if c["kind"] != "segment":
            raise Mismatch(f"a segment was written, {c['kind']} read")
        same_point(a, c["a"], self.size, "start")
        same_point(b, c["b"], self.size, "end")

    def on_curve(self, c, points):
        """Every written point lies on the curve read."""
        for p in points:
            d = distance_to(c, p)
            if d > 1e-8 * self.size:
                raise Mismatch(f"{p} is {d} off the {c['kind']} read")

    def circle(self, space):
        p, r = self.point(), abs(self.number(0.2)) + 1e-3
        e = space.add_circle(p, r, self.attribs())
        pts = [(p[0] + r * math.cos(t), p[1] + r * math.sin(t)) for t in (0.3, 1.9, 4.4)]
        return e, lambda c, m: self.on_curve(c[0], [m(q) for q in pts])

    def arc(self, space):
        p, r = self.point(), abs(self.number(0.2)) + 1e-3
        a = self.random.uniform(0, 360)
        b = a + self.random.uniform(5, 350)
        e = space.add_arc(p, r, a, b, dxfattribs=self.attribs())
        at = lambda t: (p[0] + r * math.cos(math.radians(t)), p[1] + r * math.sin(math.radians(t)))

        def check(c, m):
            self.on_curve(c[0], [m(at(t)) for t in (a, (a + b) / 2, b)])
            ends = sorted([ends_of(c[0])[0], ends_of(c[0])[1]])
            want = sorted([m(at(a)), m(at(b))])
            for x, y in zip(want, ends):
                if math.dist(x, y) > 1e-7 * self.size:
                    raise Mismatch(f"arc ends {want}, read {ends}")

        return e, check

    def ellipse(self, space):
        if self.version == "R12":
            return self.line(space)
        p = self.point()
        major, ratio = (self.number(0.2), self.number(0.2), 0), self.random.uniform(0.1, 1)
        a = self.random.uniform(0, 3)
        b = a + self.random.uniform(0.5, 3)
        e = space.add_ellipse(p, major, ratio, a, b, dxfattribs=self.attribs())
        at = lambda t: (p[0] + major[0] * math.cos(t) - major[1] * ratio * math.sin(t),
                        p[1] + major[1] * math.cos(t) + major[0] * ratio * math.sin(t))
        return e, lambda c, m: self.on_curve(c[0], [m(at(t)) for t in (a, (a + b) / 2, b)])

    def polyline(self, space):
        n = self.random.randint(3, 9)
        pts = [(*self.point(), self.random.choice([0, 0, self.random.uniform(-1.5, 1.5)])) for _ in range(n)]
        closed = self.random.random() < 0.5
        if self.version == "R12":
            e = space.add_polyline2d([p[:2] for p in pts], close=closed, dxfattribs=self.attribs())
            for v, p in zip(e.vertices, pts):
                v.dxf.bulge = p[2]
        else:
            e = space.add_lwpolyline(pts, format="xyb", close=closed, dxfattribs=self.attribs())

        def check(c, m):
            spans = n if closed else n - 1
            if len(c) != spans:
                raise Mismatch(f"{spans} spans were written, {len(c)} read")
            for i, k in enumerate(c):
                p, q = pts[i], pts[(i + 1) % n]
                self.on_curve(k, [m(bulge_middle(p, q, p[2]))])
                for x, y in zip((m(p[:2]), m(q[:2])), ends_of(k)):
                    if math.dist(x, y) > 1e-7 * self.size:
                        raise Mismatch(f"span from {x}, read {y}")

        return e, check

    def spline(self, space):
        if self.version == "R12":
            return self.arc(space)
        pts = [(*self.point(), 0) for _ in range(self.random.randint(4, 9))]
        if self.random.random() < 0.5:
            e = space.add_open_spline(pts, degree=3, dxfattribs=self.attribs())
        else:
            weights = [self.random.uniform(0.5, 3) for _ in pts]
            e = space.add_rational_spline(pts, weights, degree=3, dxfattribs=self.attribs())
        curve = e.construction_tool()
        on = [(p.x, p.y) for p in curve.points([0, curve.max_t * 0.37, curve.max_t])]
        return e, lambda c, m: self.on_curve(c[0], [m(p) for p in on])

    KINDS = [line, line, circle, arc, ellipse, polyline, spline]

    def draw(self, space, remember, matrix):
        for _ in range(self.random.randint(1, 8)):
            e, check = self.random.choice(self.KINDS)(self, space)
            remember(e.dxf.handle, check, matrix)

    def build(self):
        msp = self.doc.modelspace()
        identity = Matrix44()

        def direct(handle, check, matrix):
            self.checks[handle] = (check, lambda p, m=matrix: tuple(m.transform((p[0], p[1], 0)))[:2])

        self.draw(msp, direct, identity)
        for i in range(self.random.randint(0, 2)):
            self.insert(msp, f"PART{i}", identity, "")
        for _ in range(self.random.randint(0, 3)):
            words = self.random.choice(TEXTS)
            if self.version == "R12":
                words = words.replace("Č", "C")
            t = msp.add_text(words, height=abs(self.number(0.01)) + 0.1, dxfattribs={"layer": "0"})
            t.dxf.insert = self.point()
            self.texts[t.dxf.handle] = words.replace("%%c", "Ø").replace("%%p", "±")
        for _ in range(self.random.randint(0, 3)):
            a, b, angle = self.point(), self.point(), self.random.choice([0, 90, 30])
            d = msp.add_linear_dim(base=self.point(), p1=a, p2=b, angle=angle).render()
            u = (math.cos(math.radians(angle)), math.sin(math.radians(angle)))
            measured = abs((b[0] - a[0]) * u[0] + (b[1] - a[1]) * u[1])
            self.dims[d.dimension.dxf.handle] = ("linear", measured)

    def insert(self, space, name, outer, path):
        block = self.doc.blocks.new(name, base_point=self.point())
        sx = self.random.choice([1, 2, -1, 0.5])
        sy = self.random.choice([abs(sx), sx, abs(sx) * self.random.choice([1, 1.7])])
        turn = self.random.choice([0, 90, self.random.uniform(0, 360)])
        at = self.point()
        ref = space.add_blockref(name, at, {"xscale": sx, "yscale": sy, "rotation": turn, "layer": "OUTLINE"})
        base = block.block.dxf.base_point
        m = (Matrix44.translate(-base.x, -base.y, 0) @ Matrix44.scale(sx, sy, 1)
             @ Matrix44.z_rotate(math.radians(turn)) @ Matrix44.translate(*at, 0) @ outer)
        here = f"{path}{ref.dxf.handle}/"

        def inside(handle, check, matrix):
            self.checks[here + handle] = (check, lambda p, k=matrix: tuple(k.transform((p[0], p[1], 0)))[:2])

        self.size = max(self.size, self.reach * 16)
        self.draw(block, inside, m)
        if self.random.random() < 0.4 and len(name) < 8:
            self.insert(block, name + "S", m, here)

    def verify(self, door, path):
        binary = self.random.random() < 0.4
        self.doc.saveas(path, fmt="bin" if binary else "asc")
        run = subprocess.run([door, "read", path, "--json", "--entities", "--layout", "Model"],
                             capture_output=True, text=True, timeout=60)
        if run.returncode != 0:
            raise Mismatch(f"status {run.returncode}: {run.stderr}")
        got = json.loads(run.stdout)
        read = {}
        for e in got["entities"]:
            read[(e["block_path"] + "/" if e["block_path"] else "") + e["handle"]] = e
        for handle, (check, m) in self.checks.items():
            if handle not in read:
                raise Mismatch(f"entity {handle} was written but not read")
            check(read[handle]["curves"], m)
        if len(read) != len(self.checks):
            raise Mismatch(f"{len(self.checks)} entities were written, {len(read)} read")
        texts = {t["handle"]: t["content"] for t in got["texts"]}
        for handle, words in self.texts.items():
            if texts.get(handle) != words:
                raise Mismatch(f"text \"{words}\" was written, \"{texts.get(handle)}\" read")
        dims = {d["handle"]: d for d in got["dimensions"]}
        for handle, (kind, measured) in self.dims.items():
            d = dims.get(handle)
            if d is None or d["kind"] != kind or not close(d["measured"], measured, self.size):
                raise Mismatch(f"dimension {handle}: {kind} {measured} was written, {d} read")


def bulge_middle(p, q, bulge):
    """Point of the span half way along: the sagitta is half the chord times the bulge, to the right of travel."""
    mx, my = (p[0] + q[0]) / 2, (p[1] + q[1]) / 2
    dx, dy = q[0] - p[0], q[1] - p[1]
    return (mx + dy / 2 * bulge, my - dx / 2 * bulge)


def at_parameter(c, t):
    if c["kind"] == "segment":
        return tuple(a + (b - a) * t for a, b in zip(c["a"], c["b"]))
    if c["kind"] == "spline":
        curve = ezdxf.math.BSpline([(*p, 0) for p in c["poles"]], order=c["degree"] + 1, knots=c["knots"],
                                   weights=c["weights"] or None)
        lo, hi = c["knots"][c["degree"]], c["knots"][len(c["poles"])]
        p = curve.point(min(lo + (hi - lo) * t, hi))
        return (p.x, p.y)
    u = c.get("start", 0) + c.get("sweep", 2 * math.pi) * t
    if c["kind"] == "ellipse":
        x, y = c["major"]
        k = c["ratio"]
        return (c["centre"][0] + x * math.cos(u) - y * k * math.sin(u),
                c["centre"][1] + y * math.cos(u) + x * k * math.sin(u))
    return (c["centre"][0] + c["radius"] * math.cos(u), c["centre"][1] + c["radius"] * math.sin(u))


def ends_of(c):
    return at_parameter(c, 0), at_parameter(c, 1)


def distance_to(c, p):
    """By a coarse scan and golden refinement, independent of the program's own search."""
    n = 400
    best = min(range(n + 1), key=lambda i: math.dist(at_parameter(c, i / n), p))
    lo, hi = max(0.0, (best - 1) / n), min(1.0, (best + 1) / n)
    for _ in range(90):
        a, b = lo + (hi - lo) * 0.382, lo + (hi - lo) * 0.618
        if math.dist(at_parameter(c, a), p) < math.dist(at_parameter(c, b), p):
            hi = b
        else:
            lo = a
    return math.dist(at_parameter(c, (lo + hi) / 2), p)


def main():
    door = sys.argv[1]
    count = int(sys.argv[2]) if len(sys.argv) > 2 else 40
    first = int(sys.argv[3]) if len(sys.argv) > 3 else 1
    entities = failed = 0
    with tempfile.TemporaryDirectory() as folder:
        for seed in range(first, first + count):
            case = Case(seed)
            case.build()
            path = os.path.join(folder, f"{seed}.dxf")
            try:
                case.verify(door, path)
            except Mismatch as e:
                failed += 1
                print(f"drawing {seed} ({case.version}): {e}")
            entities += len(case.checks)
    print(f"{count} drawings, {entities} entities, {failed} drawings with differences")
    return 1 if failed or entities == 0 else 0


if __name__ == "__main__":
    sys.exit(main())
