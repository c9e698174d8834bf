"""Running Oil Ward on one machine: database, server, tests, checks and benchmark."""
