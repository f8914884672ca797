"""What a machine's own program is handed: one picture of the sheet, and what to choose there."""
