import sys

from . import serve

COMMANDS = {"demo": serve.demo, "serve": serve.serve}


def main() -> int:
    name, words = sys.argv[1], sys.argv[2:]
    return COMMANDS[name](words)


raise SystemExit(main())
