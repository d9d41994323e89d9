"""Writes random drawings with ezdxf, an independent library, and prints points that lie on what they show, as JSON.

Arguments: a folder, a seed, how many drawings."""

import json
import math
import os
import random
import sys

import ezdxf

folder, seed, count = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
VERSIONS = ["R2000", "R2007", "R2010", "R2018"]


def number(rnd, reach=1000):
    return round(rnd.uniform(-reach, reach), rnd.choice([0, 2, 6]))


def point(rnd):
    return number(rnd), number(rnd)


def add_shape(target, rnd, tilted=True):
    kind = rnd.choice(["line", "circle", "arc", "ellipse", "spline", "polyline", "old", "face"])
    x, y = point(rnd)
    below = {"extrusion": (0, 0, -1)} if rnd.random() < 0.2 else {}
    if tilted and rnd.random() < 0.15:
        below = {"extrusion": (rnd.uniform(-1, 1), rnd.uniform(-1, 1), rnd.uniform(0.2, 1))}
    if kind == "line":
        target.add_line((x, y), point(rnd))
    elif kind == "circle":
        target.add_circle((x, y), radius=rnd.uniform(1, 300), dxfattribs=below)
    elif kind == "arc":
        target.add_arc((x, y), rnd.uniform(1, 300), rnd.uniform(0, 360), rnd.uniform(0, 360), dxfattribs=below)
    elif kind == "ellipse":
        major = (rnd.uniform(10, 300), rnd.uniform(10, 300))
        target.add_ellipse((x, y), major, rnd.uniform(0.1, 1), rnd.uniform(0, 3), rnd.uniform(3.5, 6.2))
    elif kind == "spline":
        points = [point(rnd) for _ in range(rnd.randint(5, 9))]
        if rnd.random() < 0.5:
            target.add_open_spline(points, degree=rnd.choice([2, 3, 4]))
        else:
            target.add_rational_spline(points, [rnd.uniform(0.5, 2) for _ in points], degree=3)
    elif kind == "polyline":
        points = [(*point(rnd), 0, 0, rnd.choice([0, 0, rnd.uniform(-1.5, 1.5)])) for _ in range(rnd.randint(2, 8))]
        target.add_lwpolyline(points, close=rnd.random() < 0.5, dxfattribs=below)
    elif kind == "old":
        points = [(*point(rnd), rnd.choice([0, rnd.uniform(-1, 1)])) for _ in range(rnd.randint(2, 8))]
        target.add_polyline2d(points, format="xyb", close=rnd.random() < 0.5)
    else:
        target.add_3dface([point(rnd) for _ in range(4)])


def on_it(entity):
    """Points on an entity, without any approximation of curves."""
    kind = entity.dxftype()
    if kind == "LINE":
        a, b = entity.dxf.start, entity.dxf.end
        return [a.lerp(b, i / 4) for i in range(5)]
    if kind in ("CIRCLE", "ARC"):
        start, end = (0, 360) if kind == "CIRCLE" else (entity.dxf.start_angle, entity.dxf.end_angle)
        turn = (end - start) % 360 or 360
        return list(entity.vertices([start + turn * i / 16 for i in range(17)]))
    if kind == "ELLIPSE":
        start, end = entity.dxf.start_param, entity.dxf.end_param
        turn = (end - start) % (2 * math.pi) or 2 * math.pi
        return list(entity.vertices([start + turn * i / 16 for i in range(17)]))
    if kind == "SPLINE":
        return list(entity.construction_tool().approximate(24))
    if kind == "3DFACE":
        corners = entity.wcs_vertices(close=True)
        return [a.lerp(b, i / 4) for a, b in zip(corners, corners[1:]) for i in range(5)]
    if kind in ("LWPOLYLINE", "POLYLINE", "INSERT"):
        return [p for part in entity.virtual_entities() for p in on_it(part)]
    raise ValueError(kind)


files = []
for n in range(count):
    rnd = random.Random(seed * 1000 + n)
    doc = ezdxf.new(rnd.choice(VERSIONS))
    space = doc.modelspace()
    inner, outer = doc.blocks.new("INNER", base_point=point(rnd)), doc.blocks.new("OUTER")
    for _ in range(4):
        # The library itself does not carry tilted planes through unequal scales.
        add_shape(inner, rnd, tilted=False)
        add_shape(outer, rnd, tilted=False)
    place = {"xscale": rnd.choice([1, -1, 2.5]), "yscale": rnd.choice([1, 0.4]), "rotation": rnd.uniform(0, 360)}
    outer.add_blockref("INNER", point(rnd), dxfattribs={"rotation": rnd.choice([0, 90, 30]), "xscale": 0.5, "yscale": 0.5})
    for _ in range(12):
        add_shape(space, rnd)
    uniform = dict(place, yscale=abs(place["xscale"]), zscale=1) if rnd.random() < 0.5 else place
    space.add_blockref("OUTER", point(rnd), dxfattribs=uniform)
    path = os.path.join(folder, f"random-{n}.dxf")
    doc.saveas(path)
    points = [[p[0], p[1]] for entity in space for p in on_it(entity)]
    files.append({"path": path, "points": points})

print(json.dumps(files))
