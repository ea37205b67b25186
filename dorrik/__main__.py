"""`python -m dorrik`."""

from dorrik.cli import main

if __name__ == "__main__":
    main()
