"""The pages for practice: a simulated chuck and a simulated lathe."""
