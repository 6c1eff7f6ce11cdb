"""What every outsider does: opens the copy anew for each change, and prints the names of what it wrote."""
import io
import json
import random
import sys
import zipfile

from lxml import etree

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])


class Cannot(Exception):
    """There is nothing in this copy that this could be done to."""


class Package:
    """A zip of parts in XML, read by lxml and zip alone."""

    def __init__(self, path, rnd, standalone=True, stored=()):
        self.rnd = rnd
        with zipfile.ZipFile(path) as z:
            self.parts = {one.filename: z.read(one) for one in z.infolist()}
        self.trees = {}
        self.how = zipfile.ZIP_DEFLATED
        self.order = None
        self.standalone = standalone
        self.stored = stored

    def xml(self, part):
        if part not in self.trees:
            if part not in self.parts:
                raise Cannot
            self.trees[part] = etree.fromstring(self.parts[part])
        return self.trees[part]

    def pick(self, things):
        things = list(things)
        if not things:
            raise Cannot
        return self.rnd.choice(things)

    def in_another_space(self, things):
        """One element is another one that only looks like what it was: its name is somebody else's."""
        found = self.pick(things)
        found.tag = "{urn:somebody}" + etree.QName(found).localname

    def bytes(self):
        for part, tree in self.trees.items():
            self.parts[part] = etree.tostring(tree, xml_declaration=True, encoding="UTF-8", standalone=self.standalone or None)
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", self.how) as z:
            for part in self.order or self.parts:
                z.writestr(part, self.parts[part], zipfile.ZIP_STORED if part in self.stored else None)
        return out.getvalue()


def write(extension, opened, faults, same):
    """Makes each fault EACH times and each harmless change once.

    opened: from a source of chance to the copy as a thing of its own, with bytes(); a change gets it, and may give back others.
    @returns the names of the files that were written
    """
    names = []
    for which, changes in (("fault", faults), ("same", same)):
        for name, change in changes.items():
            for turn in range(EACH if which == "fault" else 1):
                one = opened(random.Random(f"{SEED} {extension} {name} {turn}"))
                try:
                    change(one)
                except Cannot:
                    continue
                path = f"{which}-{name}-{turn}.{extension}"
                with open(path, "wb") as out:
                    out.write(one.bytes())
                names.append(path)
    return names


def told(names):
    print(json.dumps(names))
