"""A program's text as lines, and each line as a block of words; linear in the bytes, nothing guessed."""

import re
from collections.abc import Iterator
from functools import lru_cache

MOST_BYTES = 20 * 1024 * 1024
MOST_LINE = 64 * 1024
MOST_DIGITS = 15
MOST_ALIKE = 60  # letters of a line that is kept for the next like it
NONE: frozenset[str] = frozenset()
NO_WORDS: list[str] = []  # of a block without any; never written to
LETTERS = frozenset("NGMXYZUVWABCIJKRFSTHDPQLE")
PLAIN = LETTERS - frozenset("NGM")
WORD = re.compile(r"([A-Z])[ \t]*([+-]?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+))[ \t]*")
CLEAN = re.compile(
    r"[ \t]*(?:[A-Z][ \t]*[+-]?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)[ \t]*)+"
)  # words with plain numbers alone
BLANKS = " \t"
GOES_ON = frozenset("0123456789.")
CONTROL_SHARE = 0.01  # of a text, beyond which it is none
FEW_ODD = 8  # that a short one may hold
ODD = bytes(n for n in range(128) if (n < ord(" ") and n not in b"\t\r\n") or n == 127)  # noqa: PLR2004 - delete


class Block:
    """One line.

    Args:
        line: its number, from 1.

    Attributes:
        deleted: it stands behind a block delete.
        g, m: its codes, written as 54.1 and 6, without their letter.
        words: letter to its number; of a letter that came twice the last.
        texts: letter to its number as written, without blanks.
        twice: letters that came twice.
        computed: letters whose number is not plain.
        unknown: words that are not understood, as written without blanks.
        faults: kind and word.
        is_empty: nothing stands on it but a comment.
    """

    __slots__ = (
        "computed",
        "deleted",
        "faults",
        "g",
        "is_empty",
        "line",
        "m",
        "texts",
        "twice",
        "unknown",
        "words",
    )

    def __init__(self, line: int) -> None:
        self.line, self.deleted, self.is_empty = line, False, True
        self.g: list[str] = []
        self.m: list[str] = []
        self.words: dict[str, float] = {}
        self.texts: dict[str, str] = {}
        self.twice: frozenset[str] = NONE
        self.computed: frozenset[str] = NONE
        self.unknown: list[str] = NO_WORDS
        self.faults: tuple[tuple[str, str], ...] = ()

    def add(self, letter: str, text: str) -> None:
        """Add a word with a plain number."""
        self.is_empty = False
        if len(text) > MOST_DIGITS:
            self.no_number(letter, text)
        elif letter == "G":
            self.g.append(code_of(text))
        elif letter == "M":
            self.m.append(code_of(text))
        elif letter == "N":
            self.texts.setdefault(letter, text)
        elif letter not in LETTERS:
            self.strange(letter + text)
        else:
            if letter in self.words or letter in self.computed:
                self.twice |= {letter}
            self.words[letter], self.texts[letter] = float(text), text

    def on(self, line: int) -> "Block":
        """Return the same words on another line; what they are kept in is shared and not written to any more."""
        other = Block.__new__(Block)
        other.line, other.deleted, other.is_empty = line, self.deleted, self.is_empty
        other.g, other.m, other.words, other.texts = self.g, self.m, self.words, self.texts
        other.twice, other.computed, other.unknown, other.faults = (
            self.twice,
            self.computed,
            self.unknown,
            self.faults,
        )
        return other

    def strange(self, word: str) -> None:
        """Add a word that is not understood."""
        if not self.unknown:
            self.unknown = []
        self.unknown.append(word)

    def no_number(self, letter: str, text: str) -> None:
        """Add a word whose number is none, is computed, or is longer than any control takes."""
        self.is_empty = False
        self.strange((letter + text)[:40])
        if letter in LETTERS:
            self.computed |= {letter}


@lru_cache(maxsize=4096)
def code_of(text: str) -> str:
    """Return the number of a code as it is called: 01 is 1, 54.10 is 54.1."""
    value = float(text)
    return f"{value:g}" if value != int(value) else str(int(value))


def text_of(raw: bytes) -> str | None:
    """Return the text that bytes hold; None where they hold none.

    Args:
        raw: UTF-8, UTF-16 by its mark or its zero bytes, else one byte a letter.
    """
    found = _decoded(raw)
    sent = found.encode("utf-8", "surrogatepass")
    odd = len(sent) - len(sent.translate(None, ODD))
    return None if odd > max(CONTROL_SHARE * len(found), FEW_ODD) else found


def _decoded(raw: bytes) -> str:
    if raw.startswith((b"\xff\xfe", b"\xfe\xff")):
        return raw.decode("utf-16", "replace")
    head = raw[:4096]
    if len(head) > 1 and head[1::2].count(0) > 0.4 * len(head[1::2]):
        return raw.decode("utf-16-le", "replace")
    if len(head) > 1 and head[0::2].count(0) > 0.4 * len(head[0::2]):
        return raw.decode("utf-16-be", "replace")
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        return raw.decode("latin-1")


def lines_of(text: str) -> Iterator[str]:
    """Give the lines of a text; LF, CR LF and CR end one, and nothing else."""
    if "\r" in text:
        text = text.replace("\r\n", "\n").replace("\r", "\n")
    at, find = 0, text.find
    while True:
        end = find("\n", at)
        if end < 0:
            break
        yield text[at:end]
        at = end + 1
    if at < len(text):
        yield text[at:]


def block_of(line: int, text: str) -> Block:
    """Return the words of a line.

    Args:
        line: its number.
        text: as it stands.
    """
    return (_words_of(text) if len(text) > MOST_ALIKE else _seen(text)).on(line)


@lru_cache(maxsize=1024)
def _seen(text: str) -> Block:
    """The words of a short line: programs say the same again and again."""
    return _words_of(text)


def _words_of(text: str) -> Block:
    block = Block(0)
    if CLEAN.fullmatch(text):
        words, texts = block.words, block.texts
        for letter, number in WORD.findall(text):
            if (
                letter in PLAIN
                and letter not in words
                and len(number) <= MOST_DIGITS
                and letter not in block.computed
            ):
                words[letter], texts[letter] = float(number), number
            elif letter == "G" and len(number) <= MOST_DIGITS:
                block.g.append(code_of(number))
            else:
                block.add(letter, number)
        block.is_empty = False
        return block
    plain = text.upper() if "(" not in text and ";" not in text else _uncommented(text, block).upper()
    at = len(plain) - len(plain.lstrip(BLANKS))
    if plain.startswith("/", at):
        block.deleted, at = True, at + 1
    _read(plain, at, block)
    return block


def _uncommented(text: str, block: Block) -> str:
    """The text without its comments."""
    kept: list[str] = []
    at = 0
    while at < len(text):
        semi, opens = text.find(";", at), text.find("(", at)
        if semi >= 0 and (opens < 0 or semi < opens):
            kept.append(text[at:semi])
            break
        if opens < 0:
            kept.append(text[at:])
            break
        kept.append(text[at:opens])
        closes = text.find(")", opens)
        if closes < 0:
            block.faults = (*block.faults, ("open_comment", ""))
            break
        at = closes + 1
    return "".join(kept)


def _read(text: str, at: int, block: Block) -> None:
    """Read words from a place on; a number that goes on behind a blank is read letter by letter."""
    end = len(text)
    while at < end:
        found = WORD.match(text, at)
        if found is not None and (found.end() == end or text[found.end()] not in GOES_ON):
            block.add(found[1], found[2])
            at = found.end()
        elif text[at] in BLANKS:
            at += 1
        elif "A" <= text[at] <= "Z":
            at = _slow(text, at, block)
        else:
            at = _strange(text, at, block)


def _slow(text: str, at: int, block: Block) -> int:
    """Read one word letter by letter; return where the next begins."""
    letter, begin = text[at], _past_blanks(text, at + 1)
    number, last, spaced = _number(text, begin)
    if number.strip("+-."):
        block.add(letter, number)
        if spaced:
            block.faults = (*block.faults, ("spaced_number", text[at:last][:60]))
        return last
    stop = _past_blanks(text, last)
    if stop < len(text) and text[stop] in "#[=":
        end = _computed_end(text, stop)
        block.no_number(letter, number + text[stop:end].replace(" ", "").replace("\t", ""))
        return end
    block.no_number(letter, number)
    return max(last, at + 1)


def _number(text: str, begin: int) -> tuple[str, int, bool]:
    """A number with blanks in it, where it ends, and whether there are any; its text is empty where there is none."""
    digits: list[str] = []
    i, last, end, spaced = begin, begin, len(text), False
    if i < end and text[i] in "+-":
        digits.append(text[i])
        i = last = i + 1
    while i < end:
        sign = text[i]
        if "0" <= sign <= "9" or (sign == "." and "." not in digits):
            spaced = spaced or (i > last and digits[-1:] not in ([], ["+"], ["-"]))
            digits.append(sign)
            last = i + 1
        elif sign not in BLANKS:
            break
        i += 1
    return "".join(digits), last, spaced


def _past_blanks(text: str, at: int) -> int:
    while at < len(text) and text[at] in BLANKS:
        at += 1
    return at


def _computed_end(text: str, at: int) -> int:
    """Where a computed number ends: behind its brackets, or at the next letter."""
    if text[at] == "[":
        depth = 0
        for i in range(at, len(text)):
            depth += (text[i] == "[") - (text[i] == "]")
            if not depth:
                return i + 1
        return len(text)
    i = at + 1
    while i < len(text) and not "A" <= text[i] <= "Z":
        i += 1
    return i


def _strange(text: str, at: int, block: Block) -> int:
    """Take a run of signs that begin no word."""
    stop = _computed_end(text, at) if text[at] in "#[" else at + 1
    while stop < len(text) and text[stop] not in BLANKS and not "A" <= text[stop] <= "Z":
        stop += 1
    block.strange(text[at:stop].replace(" ", "").replace("\t", "")[:40])
    block.is_empty = False
    return stop
