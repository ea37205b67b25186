"""What is kept: SQLAlchemy tables, migrations, loading, and the private MariaDB that the demo and the tests start."""
