"""`python -m vamper`: the command line."""

if __name__ == "__main__":
    from vamper.cli import app

    app()
