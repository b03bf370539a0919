"""`python -m nomisma`."""

from nomisma.cli import main

main()
