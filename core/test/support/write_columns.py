"""Writes MTEXT in columns, and R12 viewports, by ezdxf, an independent library. Argument: the folder to write to.

Prints where the columns of the text begin, as ezdxf says.
"""

import json
import os
import sys

import ezdxf

folder = sys.argv[1]
texts = ["one", "two", "three"]
said = {}
for version in ("R2010", "R2018"):
    doc = ezdxf.new(version)
    mtext = doc.modelspace().add_mtext_static_columns(texts, width=50, gutter_width=5, height=30,
                                                       dxfattribs={"insert": (100, 200)})
    mtext.dxf.char_height = 2.5
    for column in mtext.columns.linked_columns:
        column.dxf.char_height = 2.5
    columns = mtext.columns
    said[version] = [[100 + i * (columns.width + columns.gutter_width), 200] for i in range(columns.count)]
    doc.saveas(os.path.join(folder, f"{version}.dxf"))

doc = ezdxf.new("R12")
doc.layers.add("A-FURN")
doc.header["$PLIMMIN"] = (0, 0)
doc.header["$PLIMMAX"] = (420, 297)
doc.modelspace().add_line((1000, 500), (2000, 500))
viewport = doc.layout().add_viewport(center=(200, 150), size=(300, 200), view_center_point=(1500, 600), view_height=2000)
viewport.freeze("A-FURN")
doc.layout().add_viewport(center=(350, 250), size=(40, 40), view_center_point=(0, 0), view_height=400,
                          dxfattribs={"view_direction_vector": (1, -1, 1)})
doc.layout().add_text("Quay", dxfattribs={"height": 5, "insert": (10, 10)})
doc.saveas(os.path.join(folder, "R12.dxf"))
print(json.dumps(said))
