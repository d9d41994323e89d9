"""Writes a drawing with layouts by ezdxf, an independent library. Argument: the file to write."""

import sys

import ezdxf

doc = ezdxf.new("R2010")
doc.header["$INSUNITS"] = 4
doc.layers.add("A-WALL")
doc.layers.add("A-FURN")
msp = doc.modelspace()
msp.add_line((100000, 50000), (112345, 50000), dxfattribs={"layer": "A-WALL"})
msp.add_line((100000, 51000), (101000, 51000), dxfattribs={"layer": "A-FURN"})

layout = doc.layouts.new("A-101 Ground floor")
layout.page_setup(size=(841, 594), margins=(5, 6, 7, 8), units="mm")
layout.add_text("Sheet note", dxfattribs={"height": 5, "insert": (100, 50)})
viewport = layout.add_viewport(center=(400, 300), size=(300, 200), view_center_point=(106000, 50000), view_height=10000)
viewport.dxf.layer = "0"
viewport.freeze("A-FURN")

turned = doc.layouts.new("A-102")
turned.page_setup(size=(841, 594), margins=(0, 0, 0, 0), units="mm")
viewport = turned.add_viewport(center=(400, 300), size=(300, 300), view_center_point=(0, 0), view_height=15000)
viewport.dxf.view_target_point = (100000, 50000, 0)
viewport.dxf.view_twist_angle = 90

inches = doc.layouts.new("Detail")
inches.page_setup(size=(34, 22), margins=(0, 0, 0, 0), units="inch")
inches.add_line((1, 1), (11, 1))

doc.saveas(sys.argv[1])
