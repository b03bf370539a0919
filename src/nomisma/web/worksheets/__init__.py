"""The worksheets that answer at once, without a job: fits and joints, one catalogue entry a worksheet.

A worksheet is a form over one calculation, with its picture. It knows no database; `pages` has the routes.
"""
