"""Reading pictures of what was made: a sheet found and rectified, prints and cut pieces held against their plan."""
