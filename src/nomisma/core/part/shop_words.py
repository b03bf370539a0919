"""A line as shops write it, in the words and the order that a feature is read in: signs, synonyms, what stands behind.

Each rewriting is one row: what is written, and how it is read. A line that is read already stays as it is.
"""

import re
import unicodedata

from nomisma.core.part.written import LONGEST_LINE

_SIZE = r"(?:[0-9][0-9.,/-]*|[.,][0-9]+)(?:\s+[0-9]+/[0-9]+)?(?:\s?(?:mm|in|\")(?![a-z]))?"
_LIMITS = (
    r"(?:\s*(?:±|\+/-|\+-)\s*[0-9.,]\S*|(?:\s*[+-]?[0-9.,]+\s*/\s*[+-]?[0-9.,]+)|\s+[+-][0-9.,]\S*(?:\s+[+-][0-9.,]\S*)?"
    r"|\s*[A-Za-z]{1,2}[0-9]{1,2}(?![0-9.]))?"
)
_SIZED = rf"{_SIZE}{_LIMITS}"
_HOLES = r"c'?bore|counterbore|bore|hole|holes|drill|ream|csk|countersink|spotface|recess"
_TRUE = r"runout|tir|concentric|concentricity|coaxial|parallel|parallelism|square|squareness|perpendicular"
_ROUND = r"shank|head|flange|stub|pin|step|journal|collar|stem|rim|land|seat|body|pilot"
_CHAMFER = r"chamfers?|cham|c'?fer|bevel"
_OFF = r"(?:\s*(?:x|off|no\.?)\s+|\s+holes?,?\s+|\s*x\s*)"
_CIRCLE = r"(?:p\.?c\.?d\.?|b\.?h?\.?c\.?d?\.?|bolt\s+circle|hole\s+circle|circle|dia)"
_HOLE = rf"{_SIZED}|M[0-9.]+(?:x[0-9.]+)?|[0-9/]+-[0-9]+"
_SPACED = r"(?: thru)?(?:,? equi-?spaced|,? equally spaced)?"
_EDGES = r"(?:all\s+)?(?:sharp\s+)?(?:edges|corners)(?:\s+broken)?"

_ROWS: tuple[tuple[str, str], ...] = (
    # signs
    (r"\s*[⌀Øø]\s*", " dia "),
    (r"\s*↧\s*(\S+)", r" x \1 deep"),
    (r"\s*⌴\s*", " c'bore "),
    (r"\s*⌵\s*", " csk "),
    # a diameter said before or behind its size
    (rf"^((?:[0-9]+{_OFF})?(?:{_HOLES})|[0-9]+{_OFF}) ?dia\.? (?=[.0-9])", r"\1 "),
    (rf"^((?:{_HOLES}) {_SIZED}) dia\.? ({_SIZED} deep)", r"\1 x \2"),
    (rf"^((?:{_HOLES}) {_SIZED}) dia\.?(?= |$)", r"\1"),
    (rf"^({_SIZE})(?: dia\.?| o\.?d\.?)({_LIMITS})(?= |$)", r"od \1\2"),
    (rf"^({_SIZED})(?: dia\.?| o\.?d\.?)(?= |$)", r"od \1"),
    (rf"^({_SIZED}) (bore|hole)(?= thru| through| x |$)", r"\2 \1"),
    (r"^(?:blind) (?=bore|hole)", ""),
    (r"^(?:thru|through) (bore|hole) (.+)$", r"\1 \2 thru"),
    (rf"^(?:{_ROUND}) (?=[.0-9])", "od "),
    (rf"^shoulder (?={_SIZED} x )", "od "),
    (rf"^(?:stock|bar)(?: is| od| dia\.?)? ({_SIZE})(?: dia\.?| across)?$", r"od \1 as it is"),
    (rf"^(?:stock|tube|bar) bore ({_SIZE})$", r"bore \1 as it is"),
    # what a worn surface measures now belongs to its size
    (rf"^((?:od|bore) {_SIZED})( (?:x|from) .+?),? (?:now|worn(?: to)?) ({_SIZE})$", r"\1 now \3\2"),
    (rf"^((?:od|bore) {_SIZED}),? worn(?: to)? ({_SIZE})(?= |$)", r"\1 now \2"),
    # a length
    (rf"^({_SIZED}) (?:overall|over all|oal|o\.a\.l\.)$", r"overall \1"),
    (r"^(?:overall|total) length ", "overall "),
    (rf"^length ({_SIZED}) (?:overall|over all)$", r"overall \1"),
    (rf"^({_SIZED}) (?:long|lg\.?|length|thick|thk\.?)$", r"length \1"),
    (rf"^({_SIZED}) (?:high)$", r"height \1"),
    # where it lies, before what it is
    (rf"^({_SIZE}) to ({_SIZE}) from the (left|right),? ((?:od|bore) .+)$", r"\4 from \1 to \2 from the \3"),
    (rf"^((?:od|bore) {_SIZED}) ({_SIZE} to {_SIZE})(?= from |$)", r"\1 from \2"),
    (r" (?:on|in|from) the (?:back|back face|far face|chuck side)$", " from the left"),
    (r" (?:on|in|from) the (?:front|front face|near face|tailstock side)$", " from the right"),
    (r"^(?:face|facing) (?:groove|recess|o-ring groove) (.+?) (?:to|x) (.+) x (.+?)(?: deep)?(?= from|$)",
        r"face-groove \1 to \2 x \3 deep"),
    # an edge
    (rf"^({_SIZED}) x ([0-9.]+) ?(?:°|deg)? (?:{_CHAMFER})(?= |$)", r"cham \1 x \2"),
    (rf"^({_SIZED}) x ([0-9.]+) ?(?:°|deg(?:rees)?)(?= |$)", r"cham \1 x \2"),
    (rf"^({_SIZED}) (?:{_CHAMFER})(?= |$)", r"cham \1"),
    (rf"^(?:break|chamfer|cham) {_EDGES} (?=[.0-9])", "cham "),
    (r"^edges broken (?=[.0-9])", "cham "),
    (r"^cham ([0-9]*[.][0-9]+) ?[-–] ?([0-9]*[.][0-9]+)(?= |$)", r"cham \1/\2"),
    (rf"^(?:(?:break|deburr|file) {_EDGES}|deburr|(?:no|remove|free of) burrs|burr free)$", "burr-free all over"),
    (r"^csk ([0-9.]+) ?(?:°|deg) (?:to|x) (.+)$", r"csk \2 x \1°"),
    # a radius
    (r"^(?:radius|rad|r) (\S+(?: max)?) in (?:the |all )?(?:corners?|inside corners?)$", r"fillet \1"),
    (r"^(?:radius|rad|r) (\S+(?: max)?) on (?:the |all )?(?:outside )?(?:edges?)$", r"rounded \1"),
    (r"^r ?(?=[.0-9])", "rad "),
    (r"^(fillet|rad|radius) r ?(?=[.0-9])", r"\1 "),
    (rf"^({_SIZE}) (?:r|rad|radius)( max)?$", r"rad \1\2"),
    (r"^(?:round|round over) (?:the )?edges? (?=[.0-9])", "rounded "),
    # what is true to what
    (rf"^({_TRUE}) ({_SIZE}) (?:tir|fim|t\.i\.r\.|total)(?= |$)", r"\1 \2"),
    (rf"^({_TRUE}) (?:to|with) (?:the )?([A-Z]{{1,2}}),? (?:within |to )?({_SIZE})$", r"\1 \3 to \2"),
    (rf"^({_TRUE}) within (?=[.0-9])", r"\1 "),
    # holes off the axis
    (r"^(?:1 )?holes? (?!1 hole)(.+ at [.0-9]+ ?(?:mm|in)? radius.*)$", r"holes 1 hole \1"),
    (rf"^([0-9]{{1,2}}){_OFF}(?:dia )?(?:drill |tap )?({_HOLE}){_SPACED},? on (?:a )?({_SIZED})(?: {_CIRCLE})?$",
        r"\1 holes \2 on \3"),
    (r"^((?:keyway|keyseat) .+) in (?:the )?([A-Z]{1,2})$", r"\1 on \2"),
    # flats, threads, finish
    (r"^(.+) on ([A-Z]{1,2})"
        r"((?:,? (?:with )?(?:a )?(?:runout [.0-9]\S*(?: ?(?:mm|in))?(?: max)?|blunt start))+)$", r"\1\3 on \2"),
    (rf"^({_SIZED}) (?:af|a/f|across flats|across the flats)(?= |$)", r"flats \1"),
    (rf"^flats ({_SIZED}) across(?= |$)", r"flats \1"),
    (r"^(?:external|outside|male|od) thread ", "thread "),
    (r"^(?:internal|inside|female|tapped) (?:thread|hole) ", "tap "),
    (r"^surface (?:finish )?(?=[.0-9])", "finish "),
    (r"^([0-9.]+) finish(?= |$)", r"finish \1"),
    (r"^((?:ra|finish) [0-9.]+(?: ?(?:µm|um|µin|uin))?) all over$", r"\1"),
    (r"^([0-9.]+) all over$", r"finish \1"),
    (r"^v(?:ee)?[- ]grooves? ", "v "),
)  # fmt: skip
_REWRITINGS = tuple((re.compile(pattern, re.IGNORECASE), read_as) for pattern, read_as in _ROWS)
_VULGAR = re.compile(r"(?P<whole>[0-9]+)?\s*(?P<sign>[¼-¾⅐-⅞])")
_OFF_THE_AXIS = re.compile(r"(?:[0-9]{1,2} )?holes ", re.IGNORECASE)
_AND_THEN = re.compile(r"\s*[,;]\s*(?=(?:c'?bore|counterbore|csk|countersink|spotface)\b)", re.IGNORECASE)


def plainly(line: str) -> str:
    """One line of one feature in the words it is read in. Without unit. Source: common practice, no source.

    >>> plainly("⌀25 h7"), plainly("1-1/2 long"), plainly("break all edges .005-.015")
    ('dia 25 h7', 'length 1-1/2', 'cham .005/.015')
    >>> plainly("4x Ø9 on 115 PCD"), plainly("2 x 30°"), plainly("R0.8"), plainly("bore 12 H7 ↧⅝")
    ('4 holes 9 on 115', 'cham 2 x 30', 'rad 0.8', 'bore 12 H7 x 5/8 deep')
    """
    line = _VULGAR.sub(_fraction, " ".join(line.split()))
    for pattern, read_as in _REWRITINGS:
        line = " ".join(pattern.sub(read_as, line).split())
    return line


def one_after_another(line: str) -> list[str]:
    """A hole and what is sunk into it, said in one line, as a line each. Without unit. Source: common practice, no
    source.

    >>> one_after_another("drill 13/32 thru, c'bore .625 x .38 deep")
    ['drill 13/32 thru', "c'bore .625 x .38 deep"]
    """
    if len(line) > LONGEST_LINE:
        return [line]  # no line of a sketch: its reader says so, and nobody waits for a search through it
    first = plainly(line)
    if _OFF_THE_AXIS.match(first):
        return [first]  # what is sunk into those is not sunk into the axis: their reader says so
    return [plainly(one) for one in _AND_THEN.split(first)]


def _fraction(match: re.Match[str]) -> str:
    top, bottom = unicodedata.normalize("NFKC", match["sign"]).split("⁄")
    return f"{match['whole']}-{top}/{bottom}" if match["whole"] else f"{top}/{bottom}"
