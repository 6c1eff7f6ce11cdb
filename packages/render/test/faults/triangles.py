"""Spoils solids in triangles, and re-writes them without harm, each format by hands of its own.

python3 triangles.py SEED EACH
Takes a.stl, a.obj, a.3mf and a.glb in this folder; writes fault-* and same-*, and prints their names.
"""
from glb_chunks import GLB_FAULTS, GLB_SAME, Glb
from obj_lines import OBJ_FAULTS, OBJ_SAME, Obj
from outsider import told, write
from stl_facets import STL_FAULTS, STL_SAME, Stl
from three_mf import THREE_FAULTS, THREE_SAME, ThreeMf

told(
    write("stl", Stl, STL_FAULTS, STL_SAME)
    + write("obj", Obj, OBJ_FAULTS, OBJ_SAME)
    + write("3mf", ThreeMf, THREE_FAULTS, THREE_SAME)
    + write("glb", Glb, GLB_FAULTS, GLB_SAME)
)
