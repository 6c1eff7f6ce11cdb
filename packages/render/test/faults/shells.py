"""Corners and triangles changed one by one: what any copy of a solid in triangles may suffer, whatever its format.

Each change gets a copy with .corners, lists of x, y and z in mm, .triangles, lists of three corners, and .rnd.
"""
import math

from outsider import Cannot

# The plate that the copies show: 60 by 40 mm about the origin, 6 mm thick, with a boss up to 15 mm.


def step(one, *sizes):
    return one.rnd.choice(sizes or (0.03, 0.1, 0.7)) * one.rnd.choice([-1, 1])


def own_corner(one):
    """One corner of one triangle gets a place of its own: the shell opens there."""
    t = one.rnd.randrange(len(one.triangles))
    k = one.rnd.randrange(3)
    place = list(one.corners[one.triangles[t][k]])
    place[one.rnd.randrange(3)] += step(one)
    one.corners.append(place)
    one.triangles[t][k] = len(one.corners) - 1


def corner_along(axis):
    """A corner goes along one axis, and half as far along the others: along an edge alone it would say the same."""
    def change(one):
        by = step(one, 0.1, 0.7)
        place = one.corners[one.rnd.randrange(len(one.corners))]
        place[:] = [x + (by if k == axis else by / 2) for k, x in enumerate(place)]
    return change


def corner_to_another(one):
    a, b = one.rnd.sample(range(len(one.corners)), 2)
    one.corners[a] = list(one.corners[b])


def corners_exchanged(one):
    a, b = one.rnd.sample(range(len(one.corners)), 2)
    one.corners[a], one.corners[b] = one.corners[b], one.corners[a]


def axes_exchanged(a, b):
    def change(one):
        for p in one.corners:
            p[a], p[b] = p[b], p[a]
        for t in one.triangles:
            t.reverse()
    return change


def everywhere(change):
    def run(one):
        for p in one.corners:
            p[:] = change(p)
    return run


def mirrored(axis):
    def change(one):
        for p in one.corners:
            p[axis] = -p[axis]
        for t in one.triangles:
            t.reverse()
    return change


def turned(axis, angle):
    i, j = [(1, 2), (2, 0), (0, 1)][axis]
    c, s = math.cos(angle), math.sin(angle)

    def change(p):
        p = list(p)
        p[i], p[j] = c * p[i] - s * p[j], s * p[i] + c * p[j]
        return p
    return everywhere(change)


def twisted(p):
    angle = 0.002 * p[2]
    return [p[0] * math.cos(angle) - p[1] * math.sin(angle), p[0] * math.sin(angle) + p[1] * math.cos(angle), p[2]]


def only(where, change):
    def run(one):
        some = [p for p in one.corners if where(p)]
        if not some:
            raise Cannot
        for p in some:
            p[:] = change(one, p)
    return run


def about(x, y, reach):
    return lambda p: math.hypot(p[0] - x, p[1] - y) < reach


def without(where):
    def change(one):
        left = [t for t in one.triangles if not where(one, t)]
        if len(left) in (0, len(one.triangles)):
            raise Cannot
        one.triangles[:] = left
    return change


def all_at(axis, value):
    return lambda one, t: all(abs(one.corners[c][axis] - value) < 1e-3 for c in t)


def flipped(where):
    def change(one):
        some = [t for t in one.triangles if where(one, t)]
        if not some:
            raise Cannot
        for t in some:
            t.reverse()
    return change


def triangle_elsewhere(one):
    t = one.rnd.choice(one.triangles)
    t[one.rnd.randrange(3)] = one.rnd.choice([c for c in range(len(one.corners)) if c not in t and one.corners[c] not in [one.corners[x] for x in t]])


def every_other_gone(one):
    del one.triangles[::one.rnd.choice([2, 10])]


def first_gone(one):
    del one.triangles[0]


def last_gone(one):
    del one.triangles[-1]


def body(one, low, high, inwards=False):
    first = len(one.corners)
    one.corners += [[(low, high)[i >> k & 1][k] for k in range(3)] for i in range(8)]
    for a, b, c, d in ([0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]):
        for three in ([a, b, c], [a, c, d]):
            one.triangles.append([first + x for x in (reversed(three) if inwards else three)])


def dust(one):
    size = one.rnd.choice([0.05, 0.3])
    body(one, (50, 0, 0), (50 + size, size, size))


def far_dust(one):
    body(one, (5000, 0, 0), (5000.2, 0.2, 0.2))


def bubble(one):
    size = one.rnd.choice([0.1, 1])
    body(one, (18, -12, 2), (18 + size, -12 + size, 2 + size), inwards=True)


def body_within(one):
    body(one, (18, -12, 2), (19, -11, 3))


def copied(by, share=1.0):
    def change(one):
        first = len(one.corners)
        count = max(1, int(share * len(one.triangles)))
        one.corners += [[x + b for x, b in zip(p, by)] for p in one.corners]
        one.triangles += [[first + c for c in t] for t in one.triangles[:count]]
    return change


def fin(one):
    """A triangle that stands out from an edge and bounds nothing."""
    a, b, c = one.rnd.choice(one.triangles)
    top = [p + d for p, d in zip(one.corners[c], (0.3, 0.2, 4))]
    one.corners.append(top)
    one.triangles += [[a, b, len(one.corners) - 1], [b, a, len(one.corners) - 1]]


def loose_triangle(one):
    first = len(one.corners)
    one.corners += [[40, 0, 0], [41, 0, 0], [40, 1, 0]]
    one.triangles.append([first, first + 1, first + 2])


def second_layer(one):
    """A second skin, 0.05 mm outside of the first."""
    copied((0.05, 0.05, 0.05))(one)


def holes(change):
    return only(lambda p: math.hypot(p[0] + 22, p[1] - 12) < 3.4 or math.hypot(p[0] + 22, p[1] + 12) < 2.6, change)


SHELL_FAULTS = {
    **{f"corner-along-{'xyz'[k]}": corner_along(k) for k in range(3)},
    "own-corner": own_corner,
    "corner-to-another": corner_to_another,
    "corners-exchanged": corners_exchanged,
    "x-for-y": axes_exchanged(0, 1),
    "y-for-z": axes_exchanged(1, 2),
    **{f"mirrored-{'xyz'[k]}": mirrored(k) for k in range(3)},
    **{f"larger-along-{'xyz'[k]}": everywhere(lambda p, k=k: [v * 1.003 if i == k else v for i, v in enumerate(p)]) for k in range(3)},
    **{f"moved-along-{'xyz'[k]}": everywhere(lambda p, k=k: [v + 0.05 if i == k else v for i, v in enumerate(p)]) for k in range(3)},
    **{f"turned-about-{'xyz'[k]}": turned(k, 0.002) for k in range(3)},
    "turned-over": turned(0, math.pi),
    "turned-half": turned(2, math.pi),
    "twisted": everywhere(twisted),
    "sheared-x": everywhere(lambda p: [p[0] + 0.01 * p[2], p[1], p[2]]),
    "sheared-z": everywhere(lambda p: [p[0], p[1], p[2] + 0.002 * p[0]]),
    "bent": everywhere(lambda p: [p[0], p[1], p[2] + 5e-5 * p[0] ** 2]),
    "tapered": everywhere(lambda p: [p[0] * (1 + 0.0005 * p[2]), p[1] * (1 + 0.0005 * p[2]), p[2]]),
    "rounded-to-tenths": everywhere(lambda p: [round(v, 1) for v in p]),
    "flattened": everywhere(lambda p: [p[0], p[1], 0.0]),
    "top-higher": only(lambda p: p[2] > 14.9, lambda one, p: [p[0], p[1], p[2] + 0.04]),
    "bottom-lower": only(lambda p: p[2] < 0.01, lambda one, p: [p[0], p[1], -0.04]),
    "side-out": only(lambda p: p[0] > 29.9, lambda one, p: [p[0] + 0.04, p[1], p[2]]),
    "boss-moved": only(about(12, 4, 8.1), lambda one, p: [p[0] + 0.1, p[1], p[2]]),
    "hole-narrower": only(about(-22, 12, 3.4), lambda one, p: [-22 + (p[0] + 22) * 0.97, 12 + (p[1] - 12) * 0.97, p[2]]),
    "hole-slanted": only(about(-22, 12, 3.4), lambda one, p: [p[0] + 0.02 * p[2], p[1], p[2]]),
    "holes-moved": holes(lambda one, p: [p[0], p[1] + 0.1, p[2]]),
    "blind-hole-deeper": only(lambda p: about(-4, -12, 2.1)(p) and p[2] < 5, lambda one, p: [p[0], p[1], p[2] - 0.2]),
    "bottom-gone": without(all_at(2, 0)),
    "top-gone": without(all_at(2, 15)),
    "bottom-flipped": flipped(all_at(2, 0)),
    "all-flipped": flipped(lambda one, t: True),
    "triangle-elsewhere": triangle_elsewhere,
    "every-other-gone": every_other_gone,
    "first-gone": first_gone,
    "last-gone": last_gone,
    "dust": dust,
    "far-dust": far_dust,
    "bubble": bubble,
    "body-within": body_within,
    "copied-beside": copied((100, 0, 0)),
    "copied-on-itself": copied((0, 0, 0)),
    "half-copied": copied((0, 0, 0), 0.5),
    "fin": fin,
    "loose-triangle": loose_triangle,
    "second-layer": second_layer,
    "far-corner": lambda one: one.corners.__setitem__(one.rnd.randrange(len(one.corners)), [900.0, 0.0, 0.0]),
}


def corners_mixed(one):
    order = list(range(len(one.corners)))
    one.rnd.shuffle(order)
    at = {old: new for new, old in enumerate(order)}
    one.corners[:] = [one.corners[old] for old in order]
    for t in one.triangles:
        t[:] = [at[c] for c in t]


def triangles_mixed(one):
    one.rnd.shuffle(one.triangles)


def triangles_begin_elsewhere(one):
    for t in one.triangles:
        k = one.rnd.randrange(3)
        t[:] = t[k:] + t[:k]


def corners_apart(one):
    corners = [list(one.corners[c]) for t in one.triangles for c in t]
    one.triangles[:] = [[3 * i, 3 * i + 1, 3 * i + 2] for i in range(len(one.triangles))]
    one.corners[:] = corners


def corners_unused(one):
    one.corners += [[1.0, 2.0, 3.0], list(one.corners[0])]


def backwards(one):
    one.triangles.reverse()
    one.corners.reverse()
    last = len(one.corners) - 1
    for t in one.triangles:
        t[:] = [last - c for c in t]


def cut_in_three(one):
    """Some triangles get a corner in their middle."""
    for t in one.rnd.sample(one.triangles, min(40, len(one.triangles))):
        a, b, c = t
        one.corners.append([sum(one.corners[x][k] for x in t) / 3 for k in range(3)])
        middle = len(one.corners) - 1
        t[:] = [a, b, middle]
        one.triangles += [[b, c, middle], [c, a, middle]]


SHELL_SAME = {
    "as-it-is": lambda one: None,
    "corners-mixed": corners_mixed,
    "triangles-mixed": triangles_mixed,
    "triangles-begin-elsewhere": triangles_begin_elsewhere,
    "corners-apart": corners_apart,
    "backwards": backwards,
    "cut-in-three": cut_in_three,
    "trembling": lambda one: [p.__setitem__(k, p[k] + one.rnd.uniform(-2e-4, 2e-4)) for p in one.corners for k in range(3)] and None,
    "all-at-once": lambda one: (corners_mixed(one), triangles_mixed(one), triangles_begin_elsewhere(one), None)[-1],
}
