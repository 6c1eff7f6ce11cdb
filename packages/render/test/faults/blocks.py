"""Spoils pictures, and re-writes them without harm, in the blocks that their files are made of (struct and zlib alone; no library of pictures).

python3 blocks.py SEED EACH
Takes a.png, a.jpeg, a.webp and a.tiff in this folder; writes fault-* and same-*, and prints their names.
"""
from jpeg_blocks import JPEG_FAULTS, JPEG_SAME, Jpeg
from outsider import told, write
from png_blocks import PNG_FAULTS, PNG_SAME, Png
from tiff_blocks import TIFF_FAULTS, TIFF_SAME, Tiff
from webp_blocks import WEBP_FAULTS, WEBP_SAME, Webp

told(
    write("png", Png, PNG_FAULTS, PNG_SAME)
    + write("jpeg", Jpeg, JPEG_FAULTS, JPEG_SAME)
    + write("webp", Webp, WEBP_FAULTS, WEBP_SAME)
    + write("tiff", Tiff, TIFF_FAULTS, TIFF_SAME)
)
