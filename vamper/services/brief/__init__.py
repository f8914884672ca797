"""The job as one sentence whose phrases can be changed in place, and the rail of stations with their figures."""
