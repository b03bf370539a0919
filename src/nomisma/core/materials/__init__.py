"""Materials of shafts, bushes and hubs: stiffness, expansion, strength and what heat they stand.

Built on core.errors only; knows no fits, no joints. One table, handbook values, every one to be replaced by the
certificate's.
"""
