"""Use-cases over several services: a job planned, packed again, handed over, made, run dry, and told in a brief."""
