"""Writes DXF files with ezdxf, an independent library, and prints what is in them as JSON. Argument: a folder."""

import json
import os
import sys

import ezdxf
from ezdxf.colors import aci2rgb

folder = sys.argv[1]
out = {"colours": [list(aci2rgb(i)) for i in range(1, 256)], "files": []}

for version in ["R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018"]:
    doc = ezdxf.new(version, setup=True)
    doc.header["$INSUNITS"] = 6
    doc.layers.add("A-WALL", color=3, lineweight=50) if version != "R12" else doc.layers.add("A-WALL", color=3)
    msp = doc.modelspace()
    msp.add_line((0, 0), (12.345, 0), dxfattribs={"layer": "A-WALL"})
    msp.add_circle((3, 4), radius=2.5)
    msp.add_arc((1, 1), radius=2, start_angle=30, end_angle=120)
    msp.add_text("Café Größe", dxfattribs={"height": 0.25}).set_pos((2, 3), align="MIDDLE_CENTER") if hasattr(
        ezdxf.entities.Text, "set_pos"
    ) else msp.add_text("Café Größe", dxfattribs={"height": 0.25}).set_placement((2, 3))
    if version == "R12":
        msp.add_polyline2d([(0, 0), (4, 0), (4, 3)], close=True)
    else:
        msp.add_lwpolyline([(0, 0, 0, 0, 1), (4, 0, 0, 0, 0), (4, 3, 0, 0, 0)], close=True)
        msp.add_mtext("{\\fArial;first}\\Psecond", dxfattribs={"char_height": 0.3, "insert": (5, 5)})
        hatch = msp.add_hatch(color=2)
        hatch.paths.add_polyline_path([(0, 0), (1, 0), (1, 1)], is_closed=True)
        dim = msp.add_linear_dim(base=(0, 2), p1=(0, 0), p2=(3, 0))
        dim.render()
    block = doc.blocks.new("DOOR")
    block.add_line((0, 0), (0.9, 0))
    msp.add_blockref("DOOR", (7, 8), dxfattribs={"rotation": 90, "xscale": 2})
    path = os.path.join(folder, version + ".dxf")
    doc.saveas(path)
    binary = os.path.join(folder, version + "-binary.dxf")
    doc.saveas(binary, fmt="bin")
    types = {}
    for entity in msp:
        types[entity.dxftype()] = types.get(entity.dxftype(), 0) + 1
    out["files"].append({"version": version, "path": path, "binary": binary, "types": types})

print(json.dumps(out))
