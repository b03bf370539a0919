"""The ISO 286 tables written down a second time, letter by letter and grade by grade, without looking at the first.

The data files were recalled row by row (one size range across all letters); this was recalled column by column. Source
of both: ISO 286-1:2010, Tables 1, 4 and 5. What the comparison found stands in docs/decisions/0007.
"""

from decimal import Decimal

import pytest

from nomisma.core.fits.tables import grades, shafts

# One value a main range of ISO 286 to 500 mm (13 of them).
GRADES = {
    "IT01": "0.3 0.4 0.4 0.5 0.6 0.6 0.8 1 1.2 2 2.5 3 4", "IT0": "0.5 0.6 0.6 0.8 1 1 1.2 1.5 2 3 4 5 6",
    "IT1": "0.8 1 1 1.2 1.5 1.5 2 2.5 3.5 4.5 6 7 8", "IT2": "1.2 1.5 1.5 2 2.5 2.5 3 4 5 7 8 9 10",
    "IT3": "2 2.5 2.5 3 4 4 5 6 8 10 12 13 15", "IT4": "3 4 4 5 6 7 8 10 12 14 16 18 20",
    "IT5": "4 5 6 8 9 11 13 15 18 20 23 25 27",
    "IT6": "6 8 9 11 13 16 19 22 25 29 32 36 40", "IT7": "10 12 15 18 21 25 30 35 40 46 52 57 63",
    "IT8": "14 18 22 27 33 39 46 54 63 72 81 89 97", "IT9": "25 30 36 43 52 62 74 87 100 115 130 140 155",
    "IT10": "40 48 58 70 84 100 120 140 160 185 210 230 250",
    "IT11": "60 75 90 110 130 160 190 220 250 290 320 360 400",
    "IT12": "100 120 150 180 210 250 300 350 400 460 520 570 630",
    "IT13": "140 180 220 270 330 390 460 540 630 720 810 890 970",
    "IT14": "250 300 360 430 520 620 740 870 1000 1150 1300 1400 1550",
    "IT15": "400 480 580 700 840 1000 1200 1400 1600 1850 2100 2300 2500",
    "IT16": "600 750 900 1100 1300 1600 1900 2200 2500 2900 3200 3600 4000",
    "IT17": "1000 1200 1500 1800 2100 2500 3000 3500 4000 4600 5200 5700 6300",
    "IT18": "1400 1800 2200 2700 3300 3900 4600 5400 6300 7200 8100 8900 9700",
}  # fmt: skip
# Letters that change by the main ranges (13), without their sign.
MAIN = {
    "d": "20 30 40 50 65 80 100 120 145 170 190 210 230", "e": "14 20 25 32 40 50 60 72 85 100 110 125 135",
    "f": "6 10 13 16 20 25 30 36 43 50 56 62 68", "g": "2 4 5 6 7 9 10 12 14 15 17 18 20",
    "k": "0 1 1 1 2 2 2 3 3 4 4 4 5",
    "m": "2 4 6 7 8 9 11 13 15 17 20 21 23", "n": "4 8 10 12 15 17 20 23 27 31 34 37 40",
    "p": "6 12 15 18 22 26 32 37 43 50 56 62 68",
}  # fmt: skip
# Letters that change by the intermediate ranges (25), without their sign; - where nothing is defined.
FINE = {
    "a": "270 270 280 290 290 300 300 310 320 340 360 380 410 460 520 580 660 740 820 920 1050 1200 1350 1500 1650",
    "b": "140 140 150 150 150 160 160 170 180 190 200 220 240 260 280 310 340 380 420 480 540 600 680 760 840",
    "c": "60 70 80 95 95 110 110 120 130 140 150 170 180 200 210 230 240 260 280 300 330 360 400 440 480",
    "r": "10 15 19 23 23 28 28 34 34 41 43 51 54 63 65 68 77 80 84 94 98 108 114 126 132",
    "s": "14 19 23 28 28 35 35 43 43 53 59 71 79 92 100 108 122 130 140 158 170 190 208 232 252",
    "t": "- - - - - - 41 48 54 66 75 91 104 122 134 146 166 180 196 218 240 268 294 330 360",
    "u": "18 23 28 33 33 41 48 60 70 87 102 124 144 170 190 210 236 258 284 315 350 390 435 490 540",
    "v": "- - - - 39 47 55 68 81 102 120 146 172 202 228 252 284 310 340 385 425 475 530 595 660",
    "x": "20 28 34 40 45 54 64 80 97 122 146 178 210 248 280 310 350 385 425 475 525 590 660 740 820",
    "y": "- - - - - 63 75 94 114 144 174 214 254 300 340 380 425 470 520 580 650 730 820 920 1000",
    "z": "26 35 42 50 60 73 88 112 136 172 210 258 310 365 415 465 520 575 640 710 790 900 1000 1100 1250",
    "za": "32 42 52 64 77 98 118 148 180 226 274 335 400 470 535 600 670 740 820 920 1000 1150 1300 1450 1600",
    "zb": "40 50 67 90 108 136 160 200 242 300 360 445 525 620 700 780 880 960 1050 1200 1300 1500 1650 1850 2100",
    "zc": "60 80 97 130 150 188 218 274 325 405 480 585 690 800 900 1000 1150 1250 1350 1550 1700 1900 2100 2400 2600",
}


@pytest.mark.parametrize("grade", GRADES)
def test_a_grade_recalled_again_is_the_same(grade: str) -> None:
    assert list(grades().cells[grade][:13]) == [Decimal(value) for value in GRADES[grade].split()]


@pytest.mark.parametrize("letter", MAIN)
def test_a_deviation_by_main_ranges_recalled_again_is_the_same(letter: str) -> None:
    recalled = [Decimal(value) for value in MAIN[letter].split()]
    for end, value in zip(grades().up_to_mm[:13], recalled, strict=True):
        assert abs(shafts().cell(letter, end) or 0) == value, end


@pytest.mark.parametrize("letter", FINE)
def test_a_deviation_by_intermediate_ranges_recalled_again_is_the_same(letter: str) -> None:
    recalled = [None if value == "-" else Decimal(value) for value in FINE[letter].split()]
    assert [cell if cell is None else abs(cell) for cell in shafts().cells[letter]] == recalled
