"""The budgets of docs/PERFORMANCE.md, measured in one run as ratios: `./nomisma benchmark`."""
