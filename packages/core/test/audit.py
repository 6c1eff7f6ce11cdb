# What an independent reader makes of DXF files: errors and repairs of its audit, entities by kind, and the box of what is drawn.
import json, sys
from collections import Counter
import ezdxf
from ezdxf import bbox


def opened(entities):
    """What is drawn, blocks opened."""
    for entity in entities:
        if entity.dxftype() == "INSERT":
            yield from opened(entity.virtual_entities())
        else:
            yield entity


def told(document, message):
    """The end of a polyline in a block of R12 is missed by this reader in files of its own, too."""
    return not (document.dxfversion == "AC1009" and "SEQEND" in message and "invalid owner" in message)


found = []
for name in sys.argv[1:]:
    document = ezdxf.readfile(name)
    audit = document.audit()
    drawn = [entity for entity in document.modelspace() if entity.dxftype() != "TEXT"]
    box = bbox.extents(drawn, fast=False)
    found.append({
        "version": document.dxfversion,
        "errors": [error.message for error in audit.errors],
        "repairs": [fix.message for fix in audit.fixes if told(document, fix.message)],
        "kinds": Counter(entity.dxftype() for entity in document.modelspace()),
        "texts": sorted(entity.dxf.text for entity in opened(document.modelspace()) if entity.dxftype() == "TEXT"),
        "layers": sorted({entity.dxf.layer for entity in opened(document.modelspace())}),
        "unit": document.header.get("$INSUNITS", None) if document.dxfversion > "AC1009" else None,
        "box": [*box.extmin.vec2, *box.extmax.vec2] if box.has_data else None,
    })
json.dump(found, sys.stdout)
