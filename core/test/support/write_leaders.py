"""Draws what the test of leaders and draw order reads, with ezdxf: python3 write_leaders.py FILE."""
import json
import sys

import ezdxf
from ezdxf.math import Vec2
from ezdxf.render.mleader import ConnectionSide, TextAlignment

doc = ezdxf.new('R2018', setup=True)
msp = doc.modelspace()
builder = msp.add_multileader_mtext('Standard')
builder.set_content('Bollard\\PGR 250', char_height=2.5, alignment=TextAlignment.left)
builder.add_leader_line(ConnectionSide.left, [Vec2(-20, -15)])
builder.build(insert=Vec2(5, 0))
leader = msp.query('MULTILEADER').first
a = msp.add_line((0, 0), (10, 0), dxfattribs={'layer': 'A'})
b = msp.add_line((0, 1), (10, 1), dxfattribs={'layer': 'B'})
c = msp.add_line((0, 2), (10, 2), dxfattribs={'layer': 'C'})
c.transparency = 0.5
# B goes to the very back: it takes the place of the smallest handle.
table = doc.objects.new_entity('SORTENTSTABLE', dxfattribs={
    'owner': doc.objects.rootdict.dxf.handle, 'block_record_handle': msp.layout_key})
table.append(b.dxf.handle, '1')
doc.saveas(sys.argv[1])
context = leader.context
print(json.dumps({
    'text': context.mtext.default_content,
    'insert': list(context.mtext.insert)[:2],
    'height': context.char_height,
    'vertices': [list(v)[:2] for v in context.leaders[0].lines[0].vertices],
    'last': list(context.leaders[0].last_leader_point)[:2],
    'arrow': context.arrow_head_size,
}))
