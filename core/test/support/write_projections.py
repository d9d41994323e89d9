"""Writes a DXF with a model in space and a viewport that looks at it from a direction; prints the boxes of what is seen.

Each box is that of one entity, arrays opened, in the axes of the view: ezdxf opens the references and
turns planes into space, the projection is a pair of dot products.
"""

import json
import sys

import ezdxf
from ezdxf import path
from ezdxf.math import OCS, Vec3

file, x, y, z = sys.argv[1], *map(float, sys.argv[2:5])
direction = Vec3(x, y, z)
doc = ezdxf.new("R2010")
doc.units = 4
model = doc.modelspace()

part = doc.blocks.new("PART", base_point=(1, 2, 0))
part.add_line((1, 2, 0), (4, 2, 3))
part.add_circle((3, 3, 1), 2)
part.add_lwpolyline([(0, 0), (4, 0, 0, 0, 0.5), (4, 4)], close=True)
part.add_3dface([(0, 0, 0), (2, 0, 1), (2, 2, 3), (0, 2, 2)])
outer = doc.blocks.new("OUTER")
outer.add_blockref("PART", (5, 1, 2), dxfattribs={"rotation": 30, "xscale": 2, "yscale": 1, "zscale": 0.5})
outer.add_arc((0, 0, 4), 3, 10, 200)

model.add_line((0, 0, 0), (10, 0, 0))
model.add_line((10, 0, 0), (10, 6, 8))
model.add_circle((5, 5, 0), 3, dxfattribs={"extrusion": (0, -1, 0)})
model.add_circle((5, 5, 2), 3, dxfattribs={"extrusion": (0, 0, -1)})
model.add_arc((2, 1, 3), 4, 20, 170, dxfattribs={"extrusion": (1, 1, 1)})
model.add_ellipse((3, 3, 3), (4, 1, 1), 0.4, 0.3, 4, dxfattribs={"extrusion": Vec3(1, -4, 0).normalize()})
model.add_lwpolyline([(0, 0), (8, 0, 0, 0, 1), (8, 5)], dxfattribs={"elevation": 4, "extrusion": (0, -1, 0)})
model.add_polyline3d([(0, 0, 0), (3, 4, 5), (9, 1, 2)])
model.add_open_spline([(0, 0, 0), (3, 1, 4), (6, -1, 8), (9, 0, 2)])
model.add_3dface([(0, 0, 0), (10, 0, 0), (10, 0, 3), (0, 0, 3)])
model.add_blockref("PART", (20, 0, 1))
model.add_blockref("PART", (30, 0, 1), dxfattribs={"rotation": 90})
model.add_blockref("PART", (5, 30, 2), dxfattribs={"extrusion": (0, -1, 0), "rotation": 15})
model.add_blockref("PART", (-20, 3, 2), dxfattribs={"extrusion": (0, 0, -1), "xscale": -1})
model.add_blockref("OUTER", (0, 40, 5), dxfattribs={"rotation": -45})
model.add_blockref("PART", (0, 60, 0), dxfattribs={"column_count": 2, "row_count": 2, "column_spacing": 9, "row_spacing": 7})

layout = doc.layouts.get("Layout1")
viewport = layout.add_viewport((100, 100), (100, 100), (0, 0), 100)
viewport.dxf.view_direction_vector = direction
viewport.dxf.view_target_point = (7, 8, 9)
doc.saveas(file)

axes = OCS(direction)
across, up = axes.to_wcs(Vec3(1, 0, 0)), axes.to_wcs(Vec3(0, 1, 0))


def opened(entity):
    if entity.dxftype() != "INSERT":
        return [entity]
    return [one for part in entity.virtual_entities() for one in opened(part)]


def cells(entity):
    return entity.multi_insert() if entity.dxftype() == "INSERT" and entity.mcount > 1 else [entity]


def points(entity):
    if entity.dxftype() == "3DFACE":
        return entity.wcs_vertices()
    return path.make_path(entity).flattening(0.0005)


boxes = []
for listed in [cell for entity in model for cell in cells(entity)]:
    seen = [(across.dot(Vec3(p)), up.dot(Vec3(p))) for entity in opened(listed) for p in points(entity)]
    boxes.append([f(p[i] for p in seen) for f in (min, max) for i in (0, 1)])
print(json.dumps({"boxes": boxes, "target": [across.dot(Vec3(7, 8, 9)), up.dot(Vec3(7, 8, 9))]}))
