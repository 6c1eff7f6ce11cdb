"""Exchange files of ISO 10303-21, read into entities and written again, by a scanner of its own."""
import re

from outsider import Cannot

TOKEN = re.compile(r"\s+|/\*.*?\*/|#\d+|'(?:[^']|'')*'|\.[A-Z0-9_]+\.|\"[0-9A-F]*\"|[-+]?\d+(?:\.\d*)?(?:E[-+]?\d+)?|[A-Z_][A-Z0-9_]*|[(),;=$*]", re.S)


class Ref(int):
    """The name of an entity."""


class Typed(tuple):
    """A value with the name of its type before it."""


def tokens(text):
    at = 0
    while at < len(text):
        found = TOKEN.match(text, at)
        if not found:
            raise ValueError(f"no token at {text[at:at + 40]!r}")
        at = found.end()
        word = found.group(0)
        if not word.isspace() and not word.startswith("/*"):
            yield word


def number(value):
    """A real number as the standard writes it (6.4.2)."""
    text = repr(float(value)).upper()
    if "E" in text and "." not in text.split("E")[0]:
        text = text.replace("E", ".E")
    return text


class Exchange:
    def __init__(self, path, rnd):
        self.rnd = rnd
        text = open(path, encoding="latin-1").read()
        at = text.index("DATA;") + 5
        end = text.rindex("ENDSEC;")
        self.head, self.tail = text[:at], text[end:]
        self.entities = {}
        self.line = "\n"
        self.order = None
        words = list(tokens(text[at:end]))
        i = 0
        while i < len(words):
            name = Ref(words[i][1:])
            i += 2
            kinds = []
            if words[i] == "(":
                i += 1
                while words[i] != ")":
                    kind, (values, i) = words[i], self.values(words, i + 1)
                    kinds.append([kind, values])
                i += 1
            else:
                kind, (values, i) = words[i], self.values(words, i + 1)
                kinds.append([kind, values])
            i += 1
            self.entities[name] = kinds

    def values(self, words, i):
        out = []
        i += 1
        while words[i] != ")":
            if words[i] == ",":
                i += 1
            elif words[i] == "(":
                inner, i = self.values(words, i)
                out.append(inner)
            elif words[i][0] == "#":
                out.append(Ref(words[i][1:]))
                i += 1
            elif words[i][0].isalpha():
                kind = words[i]
                inner, i = self.values(words, i + 1)
                out.append(Typed((kind, inner)))
            else:
                out.append(words[i])
                i += 1
        return out, i + 1

    # What is there.

    def all(self, *kinds):
        return [name for name, own in self.entities.items() if any(kind in kinds for kind, _ in own)]

    def pick(self, things):
        things = list(things)
        if not things:
            raise Cannot
        return self.rnd.choice(things)

    def one(self, *kinds):
        return self.pick(self.all(*kinds))

    def args(self, name, kind=None):
        for own, values in self.entities[name]:
            if kind is None or own == kind:
                return values
        raise Cannot

    def kind(self, name):
        return self.entities[name][0][0]

    def numbers(self, name):
        """The coordinates of a point or a direction."""
        return [float(x) for x in self.args(name)[1]]

    def users(self, name):
        def within(value):
            if isinstance(value, Ref):
                return value == name
            return any(within(one) for one in value) if isinstance(value, (list, Typed)) else False

        return [other for other, own in self.entities.items() if any(within(values) for _, values in own)]

    # What is made.

    def add(self, kind, *values):
        name = Ref(max(self.entities) + 1)
        self.entities[name] = [[kind, list(values)]]
        return name

    def point(self, *place):
        return self.add("CARTESIAN_POINT", "''", [number(x) for x in place])

    def direction(self, *along):
        return self.add("DIRECTION", "''", [number(x) for x in along])

    def axes(self, place=(0, 0, 0), z=(0, 0, 1), x=(1, 0, 0)):
        return self.add("AXIS2_PLACEMENT_3D", "''", self.point(*place), self.direction(*z), self.direction(*x))

    def own(self, name):
        """A copy of an entity under a name of its own: others go on using the first."""
        other = Ref(max(self.entities) + 1)
        self.entities[other] = [[kind, list(values)] for kind, values in self.entities[name]]
        return other

    def set(self, name, at, value, kind=None):
        self.args(name, kind)[at] = value

    def said(self, value):
        if isinstance(value, Ref):
            return f"#{int(value)}"
        if isinstance(value, Typed):
            return value[0] + self.said(value[1])
        if isinstance(value, list):
            return "(" + ",".join(self.said(one) for one in value) + ")"
        return value

    def written(self, name):
        own = self.entities[name]
        body = "".join(kind + self.said(values) for kind, values in own)
        return f"#{int(name)}={body if len(own) == 1 else f'({body})'};"

    def bytes(self):
        order = self.order or list(self.entities)
        text = self.head + self.line + self.line.join(self.written(name) for name in order) + self.line + self.tail
        return text.encode("latin-1")
