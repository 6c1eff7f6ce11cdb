"""Changes of a text in bare words, letter by letter: what shows, and what does not."""
import re

from outsider import Cannot


class Words:
    def __init__(self, rnd):
        self.rnd = rnd
        self.text = open("a.txt", encoding="utf-8", newline="").read()
        self.whole = None

    def bytes(self):
        return self.whole if self.whole is not None else self.text.encode("utf-8")


def text(change):
    def act(words):
        new = change(words.text)
        if new == words.text:
            raise Cannot
        words.text = new
    return act


def anywhere(pattern, change):
    """One of all places that are of a kind."""
    def act(words):
        found = list(re.finditer(pattern, words.text))
        if not found:
            raise Cannot
        one = words.rnd.choice(found)
        words.text = words.text[: one.start()] + change(one) + words.text[one.end():]
    return act


def blocks(change):
    def act(words):
        all_of = words.text.split("\n\n")
        change(all_of, words.rnd)
        words.text = "\n\n".join(all_of)
    return act


def encoded(how, mark=b""):
    def act(words):
        words.whole = mark + words.text.encode(how)
    return act


def raw(change):
    def act(words):
        words.whole = change(words.text.encode("utf-8"), words.rnd)
    return act


LETTERS = r"[a-z]{4,}"
TXT_FAULTS = {
    "letters exchanged": anywhere(r"([a-z])(?!\1)([a-z])", lambda m: m.group(2) + m.group(1)),
    "a letter gone": anywhere(LETTERS, lambda m: m.group()[1:]),
    "a letter twice": anywhere(LETTERS, lambda m: m.group()[0] + m.group()),
    "a word gone": anywhere(r" [a-z]{4,}(?= )", lambda m: ""),
    "a word twice": anywhere(LETTERS + " ", lambda m: m.group() * 2),
    "words exchanged": anywhere(r"\b(\w+) (?!\1\b)(\w+)\b", lambda m: f"{m.group(2)} {m.group(1)}"),
    "capitals": anywhere(LETTERS, lambda m: m.group().upper()),
    "a small letter": anywhere(r"(?<=\n\n)[A-Z](?=[a-z])", lambda m: m.group().lower()),
    "another digit": anywhere(r"\d", lambda m: "7" if m.group() != "7" else "3"),
    "a digit more": anywhere(r"\d", lambda m: m.group() + "0"),
    "another hour": anywhere(r"\d:\d\d", lambda m: m.group()[0] + ":15" if m.group()[2:] != "15" else "1:30"),
    "a letter of another script": anywhere("a", lambda m: "\u0430"),
    "a sign of no width": anywhere(LETTERS, lambda m: m.group()[:2] + "\u200b" + m.group()[2:]),
    "a soft break": anywhere(LETTERS, lambda m: m.group()[:2] + "\u00ad" + m.group()[2:]),
    "signs that turn": anywhere(LETTERS, lambda m: "\u202e" + m.group() + "\u202c"),
    "a blank that holds": anywhere(r"(?<=\w) (?=\w)", lambda m: "\u00a0"),
    "a blank less": anywhere(r"(?<=\w) (?=\w)", lambda m: ""),
    "an accent": anywhere("e", lambda m: "é"),
    "a wide letter": anywhere("[a-z]", lambda m: chr(ord(m.group()) + 0xFEE0)),
    "no full stop": anywhere(r"\.(?=\n|\Z)", lambda m: ""),
    "a comma less": anywhere(",", lambda m: ""),
    "a semicolon for a comma": anywhere(",", lambda m: ";"),
    "straight marks": text(lambda t: t.replace("“", '"').replace("”", '"')),
    "a short line for a long one": text(lambda t: t.replace("—", "-")),
    "letters lost": text(lambda t: t.replace("ß", "?")),
    "letters without dots": text(lambda t: t.replace("ä", "a")),
    "another sign": text(lambda t: t.replace("東", "車")),
    "blocks exchanged": blocks(lambda b, rnd: (lambda k: b.insert(k + 1, b.pop(k)))(rnd.choice([i for i in range(len(b) - 1) if b[i] != b[i + 1]]))),
    "a block gone": blocks(lambda b, rnd: b.pop(rnd.randrange(len(b)))),
    "a block twice": blocks(lambda b, rnd: (lambda k: b.insert(k, b[k]))(rnd.randrange(len(b)))),
    "blocks joined": blocks(lambda b, rnd: (lambda k: b.__setitem__(slice(k, k + 2), [b[k] + " " + b[k + 1]]))(rnd.randrange(len(b) - 1))),
    "a block cut in two": anywhere(r"(?<=[a-z]) (?=[a-z])", lambda m: "\n\n"),
    "a block more": blocks(lambda b, rnd: b.insert(rnd.randrange(len(b)), "All of it is wrong.")),
    "another sign of an item": anywhere("•", lambda m: "–"),
    "no sign of an item": anywhere("• ", lambda m: ""),
    "a sign more": anywhere(r"(?<=\n\n)(?=[A-Z])", lambda m: "• "),
    "another number of an item": anywhere(r"(?<=\n)\d(?=\. )", lambda m: "7"),
    "a bracket for a stop": anywhere(r"(?<=\n\d)\. ", lambda m: ") "),
    "no number": anywhere(r"(?<=\n)\d\. ", lambda m: ""),
    "another number of a note": anywhere(r"\[\d\]", lambda m: "[9]"),
    "no number of a note": anywhere(r"\[\d\]", lambda m: ""),
    "cells exchanged": anywhere(r"(?<=\n)([^|\n]+) \| ([^|\n]+)", lambda m: f"{m.group(2)} | {m.group(1)}"),
    "a cell less": anywhere(r" \| [^|\n]+(?=\n)", lambda m: ""),
    "a cell more": anywhere(r"(?<=\| )", lambda m: "x | "),
    "a bar less": anywhere(r" \| ", lambda m: " "),
    "words of a picture otherwise": anywhere(r"\[[A-Z][^\]\d]*\]", lambda m: "[A stork]"),
    "words of a picture gone": anywhere(r"\[[A-Z][^\]\d]*\]", lambda m: ""),
    "no brackets of a picture": anywhere(r"\[([A-Z][^\]\d]*)\]", lambda m: m.group(1)),
    "a caption otherwise": text(lambda t: t.replace("The heron of", "The stork of")),
    "upside down": blocks(lambda b, rnd: b.reverse()),
    "cut short": text(lambda t: t[: len(t) * 2 // 3]),
    "a beginning gone": text(lambda t: t[40:]),
    "everything twice": text(lambda t: t + t),
    "nothing": raw(lambda data, rnd: b""),
    "a bit": raw(lambda data, rnd: (lambda at: data[:at] + bytes([data[at] ^ 1]) + data[at + 1:])(rnd.choice([i for i, c in enumerate(data) if chr(c).isalpha()]))),
    "a zero": raw(lambda data, rnd: data[:50] + b"\0" + data[50:]),
    "a bell": raw(lambda data, rnd: data[:50] + b"\x07" + data[50:]),
    "letters of no kind": raw(lambda data, rnd: data[:50] + b"\xff\xfe\xfd" + data[50:]),
    "read as other letters": lambda words: setattr(words, "text", words.text.encode("utf-8").decode("latin-1")),
    "letters turned back": text(lambda t: t[::-1]),
    "stars around": anywhere(LETTERS, lambda m: f"*{m.group()}*"),
    "a link": anywhere(LETTERS, lambda m: f"{m.group()} <https://elsewhere.example/>"),
    "a sign of a heading": anywhere(r"(?<=\n\n)(?=[A-Z])", lambda m: "# "),
    "struck letters": anywhere(LETTERS, lambda m: "".join(c + "\u0336" for c in m.group())),
}
def ended(lines, how, mark=b""):
    """Other ends of lines in another encoding."""
    def act(words):
        words.whole = mark + words.text.replace("\n", lines).encode(how)
    return act


TXT_SAME = {
    "big end first, and returns": ended("\r\n", "utf-16-be", b"\xfe\xff"),
    "little end first, returns alone": ended("\r", "utf-16-le", b"\xff\xfe"),
    "big end first, returns alone": ended("\r", "utf-16-be", b"\xfe\xff"),
    "a mark, and returns alone": ended("\r", "utf-8", b"\xef\xbb\xbf"),
    "returns and feeds, blanks at the ends": text(lambda t: re.sub(r"(?<=\S)(?=\n\n)", " ", t).replace("\n", "\r\n")),
    "many line ends before": text(lambda t: "\n" * 9 + t),
    "many last line ends": text(lambda t: t + "\n" * 20),
    "blanks in the last line": text(lambda t: t + "   "),
    "a mark, and line ends before": lambda words: setattr(words, "whole", b"\xef\xbb\xbf\n\n" + words.text.encode("utf-8")),
    "untouched": lambda words: None,
    "returns and feeds": text(lambda t: t.replace("\n", "\r\n")),
    "returns": text(lambda t: t.replace("\n", "\r")),
    "a mark": encoded("utf-8", b"\xef\xbb\xbf"),
    "little end first": encoded("utf-16-le", b"\xff\xfe"),
    "big end first": encoded("utf-16-be", b"\xfe\xff"),
    "sixteen bits": encoded("utf-16"),
    "no last line end": text(lambda t: t.rstrip("\n")),
    "more last line ends": text(lambda t: t + "\n\n"),
    "line ends before": text(lambda t: "\n\n" + t),
    "blanks at the ends": text(lambda t: re.sub(r"(?<=\S)(?=\n\n)", "  ", t)),
    "tabs at the ends": text(lambda t: re.sub(r"(?<=\S)(?=\n\n)", "\t", t)),
    "more empty lines": text(lambda t: t.replace("\n\n", "\n\n\n")),
    "many empty lines": text(lambda t: t.replace("\n\n", "\n\n\n\n\n")),
    "empty lines with a blank": text(lambda t: t.replace("\n\n", "\n \n")),
    "empty lines with a tab": text(lambda t: t.replace("\n\n", "\n\t\n")),
    "a mark, and returns": lambda words: setattr(words, "whole", b"\xef\xbb\xbf" + words.text.replace("\n", "\r\n").encode("utf-8")),
    "little end first, and returns": lambda words: setattr(words, "whole", b"\xff\xfe" + words.text.replace("\n", "\r\n").encode("utf-16-le")),
}
