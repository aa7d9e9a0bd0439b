"""`python -m vessel.cli`."""

import sys

from vessel.cli import main

sys.exit(main())
