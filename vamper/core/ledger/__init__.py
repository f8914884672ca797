"""What was really made, read from pictures of it: prints, proofs and cut pieces held against their plan."""
