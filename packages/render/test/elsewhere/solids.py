# Writes parts by gmsh and assimp, and what they are in truth.json: volume, mm3, and sides, mm, in order. Use: solids.py SEED
import json
import os
import random
import re
import struct
import subprocess
import sys

random.seed(int(sys.argv[1]))
between = random.uniform
truth = {}


def plate():
    length, width, thick = between(20, 120), between(15, 80), between(2, 9)
    count = random.randint(1, 4)
    radius = min(length / count, width) / between(3, 6)
    holes = ''.join(
        f'Cylinder({10 + i})={{{length * (i + .5) / count},{width / 2},-1,0,0,{thick + 2},{radius}}};\n' for i in range(count)
    )
    cut = f'BooleanDifference(100)={{Volume{{1}};Delete;}}{{Volume{{10:{9 + count}}};Delete;}};\n'
    return f'Box(1)={{0,0,0,{length},{width},{thick}}};\n{holes}{cut}'


def bracket():
    return (
        f'Box(1)={{0,0,0,40,30,4}};Box(2)={{0,0,0,4,30,{between(20, 40)}}};\n'
        'BooleanUnion(100)={Volume{1};Delete;}{Volume{2};Delete;};\n'
    )


SHAPES = [
    plate,
    bracket,
    lambda: f'Torus(1)={{0,0,0,{between(20, 30)},{between(2, 6)}}};\n',
    lambda: f'Wedge(1)={{0,0,0,{between(10, 30)},{between(10, 30)},{between(10, 30)},{between(1, 9)}}};\n',
    lambda: f'Sphere(1)={{{between(-500, 500)},{between(-500, 500)},0,{between(5, 40)}}};\n',
]


def triangles(path):
    numbers = [float(x) for x in re.findall(r'vertex\s+(\S+)\s+(\S+)\s+(\S+)', open(path).read()) for x in x]
    corners = [numbers[i:i + 3] for i in range(0, len(numbers), 3)]
    return [corners[i:i + 3] for i in range(0, len(corners), 3)]


def measured(faces, scale=1.0):
    volume = 0
    for a, b, c in faces:
        volume += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])
    sides = [max(p[d] for f in faces for p in f) - min(p[d] for f in faces for p in f) for d in range(3)]
    return {'volume': abs(volume) / 6 * scale ** 3, 'sides': sorted(s * scale for s in sides)}


def binary(path, faces, head):
    with open(path, 'wb') as out:
        out.write(head.ljust(80)[:80] + struct.pack('<I', len(faces)))
        for face in faces:
            out.write(struct.pack('<12fH', 0, 0, 0, *[x for p in face for x in p], 0))


for i, shape in enumerate(SHAPES):
    # Metres of a glTF are thousands of the numbers that these programs hand over.
    open('part.geo', 'w').write(
        'SetFactory("OpenCASCADE");\n' + shape() + 'Mesh.MeshSizeMax=9;Mesh.MeshSizeFromCurvature=12;\n'
    )
    own = f'{i}.text.stl'
    subprocess.run(['gmsh', '-2', '-format', 'stl', '-o', own, 'part.geo'], capture_output=True, check=True)
    faces = triangles(own)
    truth[own] = measured(faces)
    for name, kind, scale in (('obj', 'obj', 1), ('glb', 'glb2', 1000), ('gltf', 'gltf2', 1000), ('3mf', '3mf', 1), ('stl', 'stlb', 1)):
        subprocess.run(['assimp', 'export', own, f'{i}.other.{name}', f'-f{kind}'], capture_output=True, check=True)
        truth[f'{i}.other.{name}'] = measured(faces, scale)
    binary(f'{i}.solid.stl', faces, b'solid facet normal as some programs begin')
    truth[f'{i}.solid.stl'] = measured(faces)
    binary(f'{i}.inside-out.stl', [[b, a, c] for a, b, c in faces], b'')
    truth[f'{i}.inside-out.stl'] = measured(faces)
    binary(f'{i}.far.stl', [[[x + 4e4, y + 8e4, z] for x, y, z in face] for face in faces], b'')
    truth[f'{i}.far.stl'] = measured(faces)
    binary(f'{i}.through.stl', faces + [[[x + 1.5, y + 1.5, z + 1.5] for x, y, z in face] for face in faces], b'')
os.remove('part.geo')
json.dump(truth, open('truth.json', 'w'))
