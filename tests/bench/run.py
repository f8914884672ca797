"""The way in of `make bench`, and nothing else: every child of the nesting engine reads this file again."""

if __name__ == "__main__":
    from tests.bench.report import main

    main()
