"""`python -m ditto_run` is the same as the installed command `ditto-run`."""

from ditto_run.cli import main

raise SystemExit(main())
