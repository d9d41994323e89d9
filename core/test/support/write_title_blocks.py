"""Writes a drawing whose layouts have title blocks, by ezdxf, an independent library. Argument: the file to write."""

import sys

import ezdxf

doc = ezdxf.new("R2010")
doc.header["$INSUNITS"] = 4
doc.modelspace().add_line((0, 0), (1000, 0))

block = doc.blocks.new("TITLE")
block.add_lwpolyline([(0, 0), (180, 0), (180, 50), (0, 50)], close=True)
tags = ["PROJECT_NAME", "TITLE_1", "TITLE_2", "DWG_NO", "REV", "REV_DATE", "SCALE", "DATE", "FILE_NAME"]
for i, tag in enumerate(tags):
    block.add_attdef(tag, (5, 45 - 6 * i), dxfattribs={"height": 2.5})
bubble = doc.blocks.new("BUBBLE")
bubble.add_circle((0, 0), 4)
bubble.add_attdef("NUMBER", (0, 0), dxfattribs={"height": 2.5})


def layout(name, values, angle=0):
    space = doc.layouts.new(name)
    space.page_setup(size=(841, 594), margins=(0, 0, 0, 0), units="mm")
    space.add_blockref("BUBBLE", (50, 50)).add_auto_attribs({"NUMBER": "7"})
    if values:
        reference = space.add_blockref("TITLE", (600, 10), dxfattribs={"rotation": angle})
        reference.add_auto_attribs(values)


layout(
    "Plan, ground floor",
    {
        "PROJECT_NAME": "Long Wharf",
        "TITLE_1": "Ground floor",
        "TITLE_2": "east part",
        "DWG_NO": "A-101",
        "REV": "P02",
        "REV_DATE": "12.11.2026",
        "SCALE": "1:100",
    },
)
layout("A-102 Upper floor", {"TITLE_1": "Upper floor, revised", "REV": "C", "REV_DATE": "Nov 26", "SCALE": "1:100"}, 90)
layout("A-103 Roof", {})
layout(
    "A-104 Section",
    {
        "DATE": "02.10.2026",
        "FILE_NAME": "ward-section.dxf",
        "TITLE_1": "Section",
        "TITLE_2": "through the ward",
        "REV": "B",
        "REV_DATE": "2026-11-20",
    },
)

doc.saveas(sys.argv[1])
