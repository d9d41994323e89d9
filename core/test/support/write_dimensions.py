"""Writes dimensions by ezdxf, an independent library, and takes the blocks that it drew for them away again.

Arguments: the file to write. Prints what was in those blocks, a list for each dimension: its texts and its lines.
"""

import json
import sys

import ezdxf

doc = ezdxf.new("R2010", setup=True)
doc.header["$INSUNITS"] = 4
msp = doc.modelspace()
looks = {
    "dimtxt": 2.5, "dimasz": 2.5, "dimexo": 1, "dimexe": 1.5, "dimgap": 0.8, "dimdec": 1, "dimtad": 1, "dimzin": 8,
    "dimlfac": 1, "dimscale": 1, "dimtsz": 0, "dimblk": "", "dimdsep": ord("."), "dimrnd": 0, "dimpost": "", "dimtih": 0,
    "dimadec": 1, "dimclrt": 256, "dimtofl": 1, "dimtix": 0, "dimatfit": 3, "dimaunit": 0, "dimlunit": 2, "dimtmove": 0, "dimtzin": 0,
}
doc.dimstyles.new("FOLVEX", dxfattribs=looks)
made = [
    msp.add_linear_dim(base=(0, 30), p1=(0, 0), p2=(62, 10), dimstyle="FOLVEX"),
    msp.add_linear_dim(base=(90, 0), p1=(70, 0), p2=(75, 40), angle=90, dimstyle="FOLVEX"),
    msp.add_aligned_dim(p1=(0, 50), p2=(30, 90), distance=12, dimstyle="FOLVEX"),
    msp.add_linear_dim(base=(0, -30), p1=(0, 0), p2=(50, 0), dimstyle="FOLVEX"),
    msp.add_linear_dim(base=(0, -50), p1=(0, 0), p2=(50, 0), dimstyle="FOLVEX", override={"dimlfac": 10, "dimpost": "<> mm"}),
    msp.add_linear_dim(base=(0, -70), p1=(0, 0), p2=(50, 0), dimstyle="FOLVEX",
                       override={"dimtol": 1, "dimlim": 0, "dimtp": 0.1, "dimtm": 0.1, "dimtdec": 2}),
    msp.add_linear_dim(base=(0, -90), p1=(0, 0), p2=(50, 0), dimstyle="FOLVEX",
                       override={"dimtol": 1, "dimlim": 0, "dimtp": 0.1, "dimtm": 0.25, "dimtdec": 2, "dimtfac": 0.7}),
    msp.add_linear_dim(base=(0, -110), p1=(0, 0), p2=(50, 0), dimstyle="FOLVEX",
                       override={"dimtol": 0, "dimlim": 1, "dimtp": 0.1, "dimtm": 0.25, "dimtdec": 2}),
    msp.add_angular_dim_3p(base=(140, 40), center=(120, 0), p1=(160, 0), p2=(120, 50), dimstyle="FOLVEX"),
    msp.add_angular_dim_2l(base=(210, 30), line1=((190, 0), (210, 40)), line2=((190, 0), (220, 0)), dimstyle="FOLVEX"),
]
drawn = []
for override in made:
    override.render()
    dimension = override.dimension
    block = doc.blocks.get(dimension.dxf.geometry)
    drawn.append({
        "texts": [e.plain_text() if e.dxftype() == "MTEXT" else e.dxf.text for e in block if e.dxftype() in ("MTEXT", "TEXT")],
        "lines": [[e.dxf.start.x, e.dxf.start.y, e.dxf.end.x, e.dxf.end.y] for e in block.query("LINE")],
        "arcs": [[e.dxf.center.x, e.dxf.center.y, e.dxf.radius, e.dxf.start_angle, e.dxf.end_angle] for e in block.query("ARC")],
        "inserts": [[e.dxf.insert.x, e.dxf.insert.y] for e in block.query("INSERT")],
        "middle": [[e.dxf.insert.x, e.dxf.insert.y] for e in block if e.dxftype() in ("MTEXT", "TEXT")],
    })
    name = dimension.dxf.geometry
    dimension.dxf.discard("geometry")
    dimension.dxf.discard("text_midpoint")
    doc.blocks.delete_block(name, safe=False)
doc.saveas(sys.argv[1])
print(json.dumps(drawn))
