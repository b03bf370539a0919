"""What a reading is worth: instruments, uncertainty, and the metal-safe verdict against limits.

Built on core.quantity; knows no fits and no storage.
"""
