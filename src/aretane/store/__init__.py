"""MariaDB: migrations as .sql files, one module of plain SQL per aggregate.

Functions take a connection and plain values. A transaction is a `with transaction(...)` block at the edge.
"""
