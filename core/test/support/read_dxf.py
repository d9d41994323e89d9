"""Reads DXF files with ezdxf, an independent library, and prints what is in them as JSON: faults that its audit finds
or mends, and the entities of the model with points that lie on them."""

import json
import sys

import ezdxf


def points(entity):
    kind = entity.dxftype()
    if kind == "LWPOLYLINE":
        return [[x, y] for x, y, *_ in entity.get_points()]
    if kind == "SPLINE":
        return [[p.x, p.y] for p in entity.construction_tool().approximate(16)]
    if kind == "TEXT":
        return [list(entity.dxf.insert)[:2], list(entity.dxf.align_point)[:2]]
    if kind == "HATCH":
        return [[[x, y] for x, y, *_ in path.vertices] for path in entity.paths]
    return []


def read(path):
    doc = ezdxf.readfile(path)
    audit = doc.audit()
    entities = [
        {
            "kind": e.dxftype(),
            "layer": e.dxf.layer,
            "weight": e.dxf.get("lineweight", -1),
            "lineType": e.dxf.get("linetype", "BYLAYER"),
            "colour": e.dxf.get("true_color", None),
            "index": e.dxf.get("color", 256),
            "closed": bool(getattr(e, "closed", False)),
            "text": e.dxf.text if e.dxftype() == "TEXT" else "",
            "height": e.dxf.height if e.dxftype() == "TEXT" else 0,
            "points": points(e),
        }
        for e in doc.modelspace()
    ]
    return {
        "faults": [str(error.message) for error in [*audit.errors, *audit.fixes]],
        "unit": doc.header["$INSUNITS"],
        "layers": {layer.dxf.name: layer.is_on() for layer in doc.layers},
        "lineTypes": {
            lt.dxf.name: [tag.value for tag in lt.pattern_tags.tags if tag.code == 49] for lt in doc.linetypes
        },
        "entities": entities,
    }


print(json.dumps([read(path) for path in sys.argv[1:]]))
