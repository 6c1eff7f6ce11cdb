"""Pages as other libraries write them (reportlab, cairo, pikepdf): texts, turned pages, gradients, meshes, masks, fields.

Use: pages.py SEED, in an empty folder."""
import io
import random
import sys

import cairo
import numpy as np
import pikepdf
from PIL import Image
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import getSampleStyleSheet
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen import canvas
from reportlab.platypus import Paragraph, SimpleDocTemplate, Table, TableStyle

seed = int(sys.argv[1])
R = random.Random(seed)
noise = np.random.default_rng(seed)
WORDS = ('the pairs environment keeps each reading beside its place along river and fen while boards carry names of herons '
         'and reeds over the weir').split()
FONTS = ['Helvetica', 'Times-Roman', 'Courier', 'Helvetica-Bold', 'Times-Italic']


def words(count):
    return ' '.join(R.choice(WORDS) for _ in range(count))


def picture(pixels, mode):
    file = io.BytesIO()
    Image.fromarray(pixels, mode).save(file, 'PNG')
    file.seek(0)
    return ImageReader(file)


def texts(page, kind):
    text = page.beginText(60, 780)
    text.setFont(R.choice(FONTS), R.choice([9, 11, 14]))
    if kind == 'word spacing':
        text.setWordSpace(R.uniform(1, 6))
    if kind == 'letter spacing':
        text.setCharSpace(R.uniform(0.2, 1.5))
    if kind == 'narrow':
        text.setHorizScale(80)
    for _ in range(12):
        text.textLine(words(9))
    page.drawText(text)


def shapes(page):
    page.saveState()
    page.setFillColorRGB(R.random(), R.random(), R.random())
    page.setStrokeColorRGB(R.random(), R.random(), R.random())
    page.setLineWidth(R.uniform(0.2, 4))
    if R.random() < 0.5:
        page.setDash(R.choice([[3, 2], [6, 2, 1, 2]]), 1)
    for _ in range(6):
        x, y, kind = R.uniform(60, 400), R.uniform(100, 500), R.randint(0, 3)
        if kind == 0:
            page.rect(x, y, R.uniform(20, 90), R.uniform(20, 90), fill=R.randint(0, 1))
        elif kind == 1:
            page.circle(x, y, R.uniform(10, 50), fill=1, stroke=0)
        elif kind == 2:
            page.roundRect(x, y, 80, 50, 8, fill=1)
        else:
            page.bezier(x, y, x + 40, y + 80, x + 80, y - 60, x + 120, y)
    page.restoreState()


def linear(page, extend):
    path = page.beginPath()
    path.rect(60, 60, 400, 140)
    page.saveState()
    page.clipPath(path, stroke=0)
    page.linearGradient(160, 60, 300, 160, (colors.red, colors.blue), extend=extend)
    page.restoreState()


def pictures(page):
    pixels = (noise.random((40, 60, 3)) * 255).astype(np.uint8)
    page.drawImage(picture(pixels, 'RGB'), 100, 200, 200, 133)
    veil = (np.linspace(0, 255, 60)[None, :] * np.ones((40, 1))).astype(np.uint8)
    page.drawImage(picture(np.dstack([pixels, veil]), 'RGBA'), 320, 200, 150, 100, mask='auto')


def fields(page):
    form = page.acroForm
    form.textfield(name='a', x=60, y=60, width=200, height=20, value='reed bed', borderStyle='inset')
    form.checkbox(name='b', x=300, y=60, checked=True)
    page.linkURL('https://example.org', (60, 100, 200, 120))


def seen_through(page):
    page.setFillAlpha(0.4)
    page.setFillColor(colors.teal)
    page.rect(100, 300, 200, 100, fill=1, stroke=0)
    page.rotate(20)
    page.setFont('Helvetica', 24)
    page.drawString(200, 200, 'Turned words here')


KINDS = {
    'word spacing': lambda page: texts(page, 'word spacing'),
    'letter spacing': lambda page: texts(page, 'letter spacing'),
    'narrow': lambda page: texts(page, 'narrow'),
    'pictures': pictures,
    'gradient': lambda page: linear(page, False),
    'gradient that goes on': lambda page: linear(page, True),
    'gradient around a middle': lambda page: page.radialGradient(200, 200, 90, (colors.yellow, colors.green), extend=False),
    'everything': lambda page: page.linearGradient(0, 0, 500, 800, (colors.lightblue, colors.beige), extend=True),
    'turned by 90': lambda page: page.setPageRotation(90),
    'turned by 180': lambda page: page.setPageRotation(180),
    'turned by 270': lambda page: page.setPageRotation(270),
    'fields': fields,
    'seen through': seen_through,
}
for name, draw in KINDS.items():
    page = canvas.Canvas(f'{name}.pdf', pagesize=A4, pageCompression=R.randint(0, 1))
    if name == 'everything':
        draw(page)
    if 'spacing' not in name and name != 'narrow':
        texts(page, '')
    shapes(page)
    if name != 'everything':
        draw(page)
    page.showPage()
    page.save()

for alignment in (0, 1, 2, 4):
    styles = getSampleStyleSheet()
    styles['BodyText'].alignment = alignment
    story = [Paragraph('Readings at the weir', styles['Title'])]
    story += [Paragraph(words(60), styles['BodyText']) for _ in range(5)]
    look = TableStyle([('GRID', (0, 0), (-1, -1), 0.5, colors.grey), ('BACKGROUND', (0, 0), (-1, 0), colors.lightblue)])
    story.append(Table([[words(1) for _ in range(4)] for _ in range(6)], style=look))
    SimpleDocTemplate(f'paragraphs {alignment}.pdf', pagesize=A4).build(story)

EXTENDS = [cairo.EXTEND_NONE, cairo.EXTEND_PAD, cairo.EXTEND_REPEAT, cairo.EXTEND_REFLECT]


def one_thing(ink):
    kind = R.randint(0, 4)
    ink.save()
    ink.translate(R.uniform(40, 400), R.uniform(40, 320))
    ink.rotate(R.uniform(0, 6))
    ink.set_source_rgba(R.random(), R.random(), R.random(), R.choice([1, 1, 0.5]))
    if kind == 0:
        ink.rectangle(0, 0, 80, 40)
        ink.fill()
    elif kind == 1:
        ink.arc(0, 0, 30, 0, R.uniform(1, 6))
        ink.set_line_width(R.uniform(0.5, 6))
        ink.set_line_cap(R.randint(0, 2))
        ink.stroke()
    elif kind == 2:
        ink.curve_to(0, 0, 50, 90, 90, -20)
        ink.set_dash([6, 3])
        ink.set_line_width(3)
        ink.stroke()
    elif kind == 3:
        circles = cairo.RadialGradient(30, 20, 5, 40, 20, 40)
        gradient = cairo.LinearGradient(0, 0, 80, 0) if R.random() < 0.5 else circles
        gradient.add_color_stop_rgba(0, 1, 0.2, 0, 1)
        gradient.add_color_stop_rgba(1, 0, 0.3, 0.8, R.choice([1, 0.2]))
        gradient.set_extend(R.choice(EXTENDS))
        ink.set_source(gradient)
        ink.rectangle(-20, -20, 120, 80)
        ink.fill()
    else:
        ink.select_font_face(R.choice(['DejaVu Sans', 'DejaVu Serif']), R.randint(0, 1), R.randint(0, 1))
        ink.set_font_size(R.uniform(8, 26))
        ink.show_text(words(3))
    ink.restore()


def group(ink):
    ink.push_group()
    ink.set_source_rgb(1, 0, 0)
    ink.rectangle(50, 50, 150, 100)
    ink.fill()
    ink.set_source_rgb(0, 0, 1)
    ink.arc(180, 120, 60, 0, 7)
    ink.fill()
    ink.pop_group_to_source()
    ink.paint_with_alpha(0.5)


def mesh(ink):
    ink.arc(250, 200, 90, 0, 7)
    ink.clip()
    colours = cairo.MeshPattern()
    colours.begin_patch()
    colours.move_to(150, 100)
    for corner in ((200, 60, 300, 140, 350, 100), (380, 160, 320, 240, 350, 300), (300, 260, 200, 340, 150, 300), (120, 240, 180, 160, 150, 100)):
        colours.curve_to(*corner)
    for i, colour in enumerate([(1, 0, 0), (0, 1, 0), (0, 0, 1), (1, 1, 0)]):
        colours.set_corner_color_rgb(i, *colour)
    colours.end_patch()
    ink.set_source(colours)
    ink.paint()


def mask(ink):
    surface = cairo.ImageSurface(cairo.FORMAT_A8, 64, 64)
    inside = cairo.Context(surface)
    inside.arc(32, 32, 28, 0, 7)
    inside.fill()
    ink.set_source_rgb(0.8, 0.1, 0.4)
    ink.mask_surface(surface, 300, 60)


for i in range(8):
    surface = cairo.PDFSurface(f'shapes {i}.pdf', 500, 400)
    ink = cairo.Context(surface)
    ink.set_source_rgb(1, 1, 1)
    ink.paint()
    for _ in range(8):
        one_thing(ink)
    (None, group, mesh, mask)[i % 4] and (None, group, mesh, mask)[i % 4](ink)
    surface.finish()

# Words that a program sets without a blank: it moves on between them, and hardly so between letters.
lines = []
for row in range(20):
    parts = ' '.join(f'({word[:2]}) {R.randint(-20, 20)} ({word[2:]}) {-R.randint(220, 500)}' for word in words(9).split())
    lines.append(f'1 0 0 1 60 {760 - 22 * row} Tm [{parts}] TJ')
    lines.append(f'1 0 0 1 420 {760 - 22 * row} Tm (column) Tj')
made = pikepdf.new()
page = made.add_blank_page(page_size=(595, 842))
font = pikepdf.Dictionary(Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name('/Times-Roman'))
page.Resources = pikepdf.Dictionary(Font=pikepdf.Dictionary(F1=font))
page.Contents = made.make_stream(f'BT /F1 11 Tf\n{chr(10).join(lines)}\nET'.encode())
made.save('no blanks.pdf')

# Pictures of one bit a pixel that a colour is painted through: one after the other, many of the same, one all over.
made = pikepdf.new()
page = made.add_blank_page(page_size=(400, 300))
bits = Image.fromarray((noise.random((6, 10)) > 0.5).repeat(10, 0).repeat(10, 1)).tobytes()


def stencil(width, height, data, **more):
    return pikepdf.Stream(made, data, Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image, Width=width, Height=height,
                          ImageMask=True, BitsPerComponent=1, **more)


held = {'A': stencil(100, 60, bits), 'B': stencil(100, 60, bits, Decode=pikepdf.Array([1, 0])), 'O': stencil(1, 1, b'\0')}
page.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(**held))
drawn = ['1 0 0 rg q 100 0 0 60 20 220 cm /A Do Q', '0 .5 0 rg q 100 0 0 60 150 220 cm /B Do Q', '0 0 1 rg q 80 0 0 30 280 230 cm /O Do Q']
drawn += [f'.2 .2 .2 rg q 20 0 0 12 {20 + i * 25} 150 cm /A Do Q' for i in range(14)]
drawn += [f'{R.random()} 0 .8 rg q 60 20 -20 60 120 40 cm /A Do Q']
page.Contents = made.make_stream('\n'.join(drawn).encode())
made.save('stencils.pdf')

# Letters that are drawn by instructions of their own, in units of their own: areas, and a picture of one bit.
made = pikepdf.new()
page = made.add_blank_page(page_size=(400, 120))
letter = b'10 0 0 0 8 8 d1 '
procs = pikepdf.Dictionary(
    a=made.make_stream(letter + b'0 0 8 8 re f'),
    b=made.make_stream(letter + b'4 0 m 8 8 l 0 8 l h f'),
    c=made.make_stream(letter + b'q 8 0 0 8 0 0 cm BI /W 8 /H 8 /IM true /BPC 1 ID \x81\x42\x24\x18\x18\x24\x42\x81 EI Q'),
)
names = [97, pikepdf.Name.a, pikepdf.Name.b, pikepdf.Name.c]
font = pikepdf.Dictionary(
    Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type3, FontBBox=pikepdf.Array([0, 0, 10, 10]),
    FontMatrix=pikepdf.Array([.1, 0, 0, .1, 0, 0]), CharProcs=procs, FirstChar=97, LastChar=99,
    Encoding=pikepdf.Dictionary(Type=pikepdf.Name.Encoding, Differences=pikepdf.Array(names)),
    Widths=pikepdf.Array([10, 10, 10]), Resources=pikepdf.Dictionary(),
)
page.Resources = pikepdf.Dictionary(Font=pikepdf.Dictionary(T=made.make_indirect(font)))
shown = ''.join(R.choice('abc') for _ in range(8))
page.Contents = made.make_stream(f'BT .1 .2 .7 rg /T 30 Tf 20 60 Td ({shown}) Tj 2 Tc 0 -40 Td [(ab) -500 (ca)] TJ ET'.encode())
made.save('shapes as letters.pdf')
