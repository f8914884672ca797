"""`python -m vamper`: the command line. The nesting engine's children read this file again, so it does nothing else."""

if __name__ == "__main__":
    from vamper.cli import app

    app()
