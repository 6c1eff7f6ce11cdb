"""Spoils pages of texts, books and bare words, and re-writes them without harm, element by element and letter by letter.

python3 writings.py SEED EACH
Takes a.html, a.epub and a.txt in this folder; writes fault-* and same-*, and prints their names.
Pages are read and written by lxml's own HTML, books by zip and lxml, bare words by nothing.
"""
from bare_words import TXT_FAULTS, TXT_SAME, Words
from books import EPUB_FAULTS, EPUB_SAME, Book
from outsider import told, write
from texts_on_pages import HTML_FAULTS, HTML_SAME, Page

told(write("html", Page, HTML_FAULTS, HTML_SAME) + write("epub", Book, EPUB_FAULTS, EPUB_SAME) + write("txt", Words, TXT_FAULTS, TXT_SAME))
