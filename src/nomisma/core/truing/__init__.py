"""Work in a four-jaw chuck: where it stands, which jaw moves how far, what no jaw can mend; tilt; off centre on
purpose.

Built on core.quantity; knows no machine and no storage.
"""
