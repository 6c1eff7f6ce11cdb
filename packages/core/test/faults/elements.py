"""Elements of pages that other hands hide, change, or leave as they are: for pages of tables, of texts, and in books.

Each change takes a page: its root (lxml), pick() from things, and the names of its elements by tag().
"""
import re

from lxml import etree, html

from outsider import Cannot
from styles import HIDING, HIDING_RULES, PLAIN, PLAIN_RULES


class HtmlPage:
    """A page of HTML, read and written by lxml; all of its body counts."""

    def __init__(self, rnd):
        self.rnd = rnd
        with open("a.html", "rb") as file:
            self.source = file.read().decode("utf-8")
        self.root = html.document_fromstring(self.source)
        self.whole = None

    @property
    def body(self):
        return self.root.find("body")

    @property
    def head(self):
        return self.root.find("head")

    def pick(self, things):
        things = list(things)
        if not things:
            raise Cannot
        return self.rnd.choice(things)

    @staticmethod
    def tag(name):
        return name

    @staticmethod
    def is_content(x):
        return True

    @staticmethod
    def made(name, attributes):
        one = etree.Element(name)
        for key, value in attributes.items():
            one.set(key, value)
        return one

    def add_rules(self, words):
        sheet = self.head.find("style")
        sheet.text = words + "\n" + sheet.text if words.startswith("@charset") else sheet.text + "\n" + words

    def bytes(self):
        if self.whole is not None:
            return self.whole
        return b"<!doctype html>\n" + html.tostring(self.root, encoding="utf-8")


def with_words(page, *names):
    return [x for x in page.body.iter(*[page.tag(n) for n in names]) if re.search(r"\w{2}", x.text or "") and page.is_content(x)]


def styled(declarations, *names):
    def act(page):
        x = page.pick(x for x in with_words(page, *names) if not x.get("style"))
        x.set("style", declarations)
    return act


def attributed(name, value, *names):
    def act(page):
        page.pick(x for x in page.body.iter(*[page.tag(n) for n in names]) if page.is_content(x)).set(name, value)
    return act


def rule(words, name):
    return lambda page: page.add_rules(words.replace("%s", name))


def around(name, *names, **attributes):
    """An element of that name around the words that an element begins with."""
    def act(page):
        x = page.pick(with_words(page, *names))
        made = page.made(name, attributes)
        made.text, x.text = x.text, None
        x.insert(0, made)
    return act


def beside(name, words, *names, **attributes):
    """An element of that name after one of these."""
    def act(page):
        x = page.pick(x for x in page.body.iter(*[page.tag(n) for n in names]) if page.is_content(x))
        made = page.made(name, attributes)
        made.text = words
        made.tail, x.tail = x.tail, None
        x.addnext(made)
    return act


def in_head(tag, words="", **attributes):
    def act(page):
        made = page.made(tag, attributes)
        made.text = words or None
        page.head.append(made)
    return act


def within_words(change, *names):
    def act(page):
        x = page.pick(x for x in with_words(page, *names) if change(x.text) != x.text)
        x.text = change(x.text)
    return act


def named(prefix, of):
    return {f"{prefix} {name}": change for name, change in of.items()}


def faults_of(words, block):
    """words: elements with words in them; block: the one that rules of a sheet are about."""
    return {
        **named("style", {name: styled(value, *words) for name, value in HIDING.items()}),
        **named("rule", {name: rule(value, block) for name, value in HIDING_RULES.items()}),
        **{f"within {name}": around(name, *words) for name in ("del", "s", "strike", "template", "noscript", "object", "canvas", "svg", "textarea", "select", "button", "marquee", "rt", "audio", "dialog", "details", "title", "script", "q", "ruby", "math")},
        "words of a font in white": around("font", *words, color="#ffffff"),
        "hidden": attributed("hidden", "", *words),
        "hidden until found": attributed("hidden", "until-found", *words),
        "turned round": attributed("dir", "rtl", *words),
        "popping up": attributed("popover", "auto", *words),
        "a hand on it": attributed("onclick", "x()", *words),
        "brought in from elsewhere": in_head("link", rel="stylesheet", href="https://elsewhere.example/x.css"),
        "led elsewhere": in_head("meta", **{"http-equiv": "refresh", "content": "0;url=https://elsewhere.example/"}),
        "based elsewhere": in_head("base", href="https://elsewhere.example/"),
        "done by a program": in_head("script", "document.body.hidden = true"),
        "a frame": beside("iframe", "", *words, src="https://elsewhere.example/"),
        "a sign of no width": within_words(lambda t: t[:1] + "\u200b" + t[1:], *words),
        "a letter of another script": within_words(lambda t: t.replace("a", "\u0430", 1), *words),
        "a soft break": within_words(lambda t: t[:2] + "\u00ad" + t[2:], *words),
        "signs that turn": within_words(lambda t: "\u202e" + t + "\u202c", *words),
        "a blank that holds": within_words(lambda t: t.strip().replace(" ", "\u00a0", 1), *words),
        "a blank less": within_words(lambda t: re.sub(r"(?<=\w) (?=\w)", "", t, count=1), *words),
        "capitals in the middle": within_words(lambda t: t[:1] + t[1:].upper(), *words),
        "letters exchanged": within_words(lambda t: re.sub(r"(\w)(?!\1)(\w)", r"\2\1", t, count=1), *words),
    }


def same_of(words, block):
    return {
        "untouched": lambda page: None,
        **named("style", {name: styled(value, *words) for name, value in PLAIN.items()}),
        **named("rule", {name: rule(value, block) for name, value in PLAIN_RULES.items()}),
        "a span around": around("span", *words),
        "a span of a class around": around("span", *words, **{"class": "own"}),
        "classes": attributed("class", "own", *words),
        "not to be translated": attributed("translate", "no", *words),
        "a number of its own": attributed("data-own", "7", *words),
        "a description": in_head("meta", name="description", content="of the fen"),
        "for small screens": in_head("meta", name="viewport", content="width=device-width"),
        "who made it": in_head("meta", name="generator", content="by hand"),
    }
