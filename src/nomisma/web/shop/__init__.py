"""The pages of the shop itself: its instruments and machines, its rules and speeds, who may speak to it."""
