"""The pages of a job, one module a stage of the spine: parse what was sent, call a command of jobs/, choose the page.

Rules of the shop and arithmetic live in jobs/ and core/.
"""
