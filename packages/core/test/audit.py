# What an independent reader makes of DXF files: errors and repairs of its audit, entities by kind, and the box of what is drawn.
import json, sys
from collections import Counter
import ezdxf
from ezdxf import bbox

found = []
for name in sys.argv[1:]:
    document = ezdxf.readfile(name)
    audit = document.audit()
    drawn = [entity for entity in document.modelspace() if entity.dxftype() != "TEXT"]
    box = bbox.extents(drawn, fast=False)
    found.append({
        "version": document.dxfversion,
        "errors": [error.message for error in audit.errors],
        "repairs": [fix.message for fix in audit.fixes],
        "kinds": Counter(entity.dxftype() for entity in document.modelspace()),
        "texts": sorted(entity.dxf.text for entity in document.modelspace().query("TEXT")),
        "layers": sorted({entity.dxf.layer for entity in document.modelspace()}),
        "unit": document.header.get("$INSUNITS", None) if document.dxfversion > "AC1009" else None,
        "box": [*box.extmin.vec2, *box.extmax.vec2] if box.has_data else None,
    })
json.dump(found, sys.stdout)
