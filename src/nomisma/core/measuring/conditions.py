"""What may be said against a reading before it is accepted."""

CONDITIONS: dict[str, str] = {
    "burr": "Over a burr the reading is too large on a shaft and too small in a bore: deburr first.",
    "hot": "Hot from the tool it reads large: let it come to the room's temperature, or say its temperature.",
    "rough": "Over a rough or fuzzy finish a micrometer reads the peaks: take a clean cut first.",
}
"""Each condition and what is asked because of it. Source: common practice, no source."""
