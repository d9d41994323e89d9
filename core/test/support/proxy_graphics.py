"""Prints what ezdxf makes of the graphics stored with the proxies of a DXF file: the box, colour and text of each entity."""

import json
import sys

from ezdxf import bbox, recover

doc, _ = recover.readfile(sys.argv[1])
shown = []
for proxy in doc.modelspace().query("ACAD_PROXY_ENTITY"):
    for entity in proxy.virtual_entities():
        box = bbox.extents([entity], fast=False, flatten=0.001) if entity.dxftype() != "TEXT" else None
        low, high = (box.extmin, box.extmax) if box else (entity.dxf.insert, entity.dxf.insert)
        shown.append(
            {
                "box": [low.x, low.y, high.x, high.y],
                "colour": entity.dxf.get("color", 256),
                "text": entity.dxf.get("text", "") if entity.dxftype() == "TEXT" else "",
            }
        )
print(json.dumps(shown))
