"""Parts as their lines say them, for the tests of planning."""

from nomisma.core.metal.cut import Cut
from nomisma.core.operations.piece import Piece
from nomisma.core.operations.surfaces import Surface, surfaces_of, whole_letter
from nomisma.core.order.laid_out import StockKind, StockSaid
from nomisma.core.order.offered import piece_of
from nomisma.core.order.order import OrderOfWork, order_of_work
from nomisma.core.order.set_ups import SetUps, set_ups_of
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.core.quantity.length import Unit

FLANGED = "od 24 h9 x 30 ±0.1\nod 40 x 10 ±0.1\nbore 12 H7 thru\nlength 40 ±0.1"


def features(lines: str, unit: Unit = "mm") -> list[LetteredFeature]:
    """The features of a part by its lines."""
    read = feature_lines(FeatureLinesInput(text=lines, unit=unit))
    assert not read.not_understood, read.not_understood
    return [lettered(one) for one in read.features]


BAR = StockSaid()


def piece(lines: str, stock: StockSaid = BAR, unit: Unit = "mm") -> Piece:
    """A part as it is to be cut from a stock."""
    found = piece_of(features(lines, unit), stock, unit)
    assert found is not None
    return found


def set_ups(lines: str, stock: StockSaid | StockKind = "bar", *, face_as_parted: bool = False) -> SetUps:
    """The set-ups of a part, sizes in mm."""
    said = stock if isinstance(stock, StockSaid) else StockSaid(stock)
    own = piece(lines, said)
    return set_ups_of(own, said, face_as_parted=face_as_parted, whole=whole_letter(own.features, own.section))


def planned(
    lines: str, stock: StockSaid | StockKind = "bar", *, unit: Unit = "mm", face_as_parted: bool = False
) -> OrderOfWork:
    """The plan of a part that can be cut."""
    found = order_of_work(features(lines, unit), stock=stock, unit=unit, face_as_parted=face_as_parted)
    assert found is not None
    assert found.set_ups, found.complaints
    return found


def cuts(order: OrderOfWork, *kinds: str) -> list[Cut]:
    """The cuts of some kinds of a plan, in order."""
    return [cut for one in order.operations for cut in one.cuts if cut.kind in kinds]


def surfaces(lines: str) -> list[Surface]:
    """The surfaces of a part, sizes in mm."""
    read = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    assert not read.not_understood
    known = [lettered(one) for one in read.features]
    section = section_of(known)
    assert section is not None
    return surfaces_of(known, section)


SHOP_LINES = """
od 40 x 20
od 30 h7 x 15
M24x2 6g x 12
od 25 as it is x 10
bore 8 thru
drill 8.5 thru
ream 10 H7 thru
drill 5 x 9 deep from the right
bore 20 H7 x 12 deep
tap M6 thru
M30x2 6H x 8 deep
groove 2 wide to 20 at 5
groove 2 H13 to 18
cham 1 x 45
cham 0.5 x 45 on A
rad 2 on A
knurl fine on A
taper 1:20 over 8 on A
6 holes 5 on 30
keyway 6 x 3 x 10 on A
runout 0.02 true to A
Ra 0.8
trial plug goes
length 60
overall 80
wall 4
undercut F 0.6 x 0.3 at 20
undercut 0.8 x 0.3 on A
3 grooves 1 wide to 20 at 3 pitch 4
2 grooves 1 wide to 22 at 3 8
face groove 12 to 20 x 2 deep
M24x2 6g runout 3, blunt start on A
face recess 16 x 22 x 1 deep from the right
""".strip().splitlines()
"""Lines as shops write them, behind a first od; A is that."""

_PIECES = """
1 9 .5 1.2.3 . .. 1/0 1/2 -3 +.1 ±.1 0 ° x thru deep at on from to between and over pitch land radius throw pins A B
od bore hole holes groove grooves v cham csk fillet R taper morse gear 24T 12DP module eccentric knurl keyway flats
M8 1/4-20 H7 mm in ⌀ ↧ ½ as it is max min both ends true within runout
"""
PIECES = _PIECES.split()
"""What lines are made of, and what looks like it."""
