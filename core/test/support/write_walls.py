"""Draws what the test of multilines, long attributes, helixes and tilted polylines reads, with ezdxf: python3 write_walls.py FILE.

Prints what ezdxf makes of them."""
import json
import sys

import ezdxf
from ezdxf.entities import MText

doc = ezdxf.new('R2018', setup=True)
msp = doc.modelspace()
style = doc.mline_styles.new('WALL')
for offset, colour in ((0.5, 1), (0.2, 256), (-0.2, 0), (-0.5, 5)):
    style.elements.append(offset, colour)
JOINTS, START_ROUND, START_INNER, END_SQUARE = 2, 64, 32, 256
style.dxf.flags = JOINTS + START_ROUND + START_INNER + END_SQUARE
lines = [
    msp.add_mline([(0, 0), (10, 0), (10, 8), (3, 12)], dxfattribs={'style_name': 'WALL', 'justification': 1}),
    msp.add_mline([(20, 0), (30, 0), (30, 8)], close=True, dxfattribs={'style_name': 'WALL', 'scale_factor': 2}),
    msp.add_mline([(40, 0), (50, 5)], dxfattribs={'style_name': 'WALL', 'justification': 2}),
]


def drawn(line):
    segments, arcs = [], []
    for e in line.virtual_entities():
        if e.dxftype() == 'LINE':
            segments.append([*e.dxf.start.vec2, *e.dxf.end.vec2])
        elif e.dxftype() == 'ARC':
            middle = e.dxf.center.vec2 + (e.start_point + e.end_point).vec2 * 0
            angle = (e.dxf.start_angle + ((e.dxf.end_angle - e.dxf.start_angle) % 360) / 2)
            top = ezdxf.math.Vec2.from_deg_angle(angle, e.dxf.radius) + middle
            arcs.append([*top, e.dxf.radius])
    return {'segments': segments, 'arcs': arcs}


block = doc.blocks.new('TAG')
block.add_attdef('ROOM', (0, 0), text='x', dxfattribs={'height': 2.5})
insert = msp.add_blockref('TAG', (5, 20))
attribute = insert.add_attrib('ROOM', 'one', (5, 20), dxfattribs={'height': 2.5})
text = MText.new(dxfattribs={'insert': (5, 20), 'char_height': 2.5, 'attachment_point': 7, 'width': 40,
                             'text_direction': (0, 1, 0)})
text.text = 'Waiting room\\Pfloor 2^Jnorth'
attribute.set_mtext(text)
helix = ezdxf.entities.Helix.new(doc=doc)
helix.control_points = [(0, 30, 0), (4, 34, 0), (8, 26, 0), (12, 30, 0)]
helix.knots = [0, 0, 0, 0, 1, 1, 1, 1]
helix.dxf.degree = 3
helix.dxf.axis_base_point = (99, 99, 0)
helix.dxf.start_point = (98, 98, 0)
helix.dxf.radius = 7
msp.add_entity(helix)
tilted = msp.add_polyline2d([(0, 0), (10, 0), (10, 5)], dxfattribs={
    'extrusion': (0.36, 0.48, 0.8), 'elevation': (0, 0, 7)})
msp.add_attdef('LOOSE', (0, 40), text='default', dxfattribs={'height': 3})
doc.saveas(sys.argv[1])
print(json.dumps({
    'lines': [drawn(line) for line in lines],
    'tilted': [list(tilted.ocs().to_wcs((*p.vec2, 7)).vec2) for p in tilted.points()],
    'helix': [list(p.vec2) for p in helix.construction_tool().approximate(8)],
}))
