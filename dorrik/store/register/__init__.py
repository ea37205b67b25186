"""The register of clients, properties, jobs and instruments, and the search over it."""
