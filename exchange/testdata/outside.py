# A drawing written by a program of others (ezdxf 0.18, Debian's python3-ezdxf), which the tests read: outside.dxf.
# The same program reads what the package writes: python3 outside.py site.dxf
import sys

import ezdxf
from ezdxf import recover

if len(sys.argv) > 1:
    document, audit = recover.readfile(sys.argv[1])
    print(document.dxfversion, audit.errors, [(e.dxftype(), e.dxf.layer) for e in document.modelspace()])
    sys.exit(bool(audit.errors))

drawing = ezdxf.new("R2000")
drawing.header["$INSUNITS"] = 6
model = drawing.modelspace()
model.add_lwpolyline([(0, 0, 0, 0, 1), (2, 0)], dxfattribs={"layer": "WALL"})
model.add_circle((5, 5), 2, dxfattribs={"layer": "POND"})
model.add_lwpolyline([(10, 0), (14, 0), (14, 3), (10, 3)], close=True, dxfattribs={"layer": "HOUSE"})
model.add_polyline2d([(0, 9), (8, 9)], dxfattribs={"layer": "FENCE"})
model.add_text("shed", dxfattribs={"layer": "HOUSE", "insert": (10, 0)})
drawing.blocks.new("OAK TREE")
model.add_blockref("OAK TREE", (-20, 4))
model.add_arc((0, 0), 5, 0, 90, dxfattribs={"layer": "KERB"})
drawing.saveas("outside.dxf")
