"""What a job is about: opened, required, mated, begun anew from another; joints and bushes."""
