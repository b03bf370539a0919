"""The invented shop of a small hilltop observatory: people, instruments, machines and jobs, all made up."""
