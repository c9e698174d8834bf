"""How the service of each kind of reservoir goes, step by step."""
