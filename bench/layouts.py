"""Writes a DXF with many small layouts: python3 layouts.py FILE COUNT"""
import sys

import ezdxf

file, count = sys.argv[1], int(sys.argv[2])
doc = ezdxf.new("R2010", setup=True)
doc.units = 4  # millimetres
model = doc.modelspace()
for i in range(40):
    model.add_line((i * 250, 0), (i * 250, 8000), dxfattribs={"layer": "A-WALL"})
for i in range(1, count + 1):
    layout = doc.layouts.new(f"S-{i:03}")
    layout.page_setup(size=(297, 210), margins=(0, 0, 0, 0), units="mm")
    layout.add_viewport(center=(148, 105), size=(200, 150), view_center_point=(5000, 4000), view_height=15000)
    layout.add_text(f"Sheet {i}", dxfattribs={"height": 5}).set_pos((20, 20))
    for k in range(12):
        layout.add_line((20 + k, 30), (60 + k, 60))
doc.saveas(file)
