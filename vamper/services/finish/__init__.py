"""What happens after the cut: each job, and the evening that several share."""
