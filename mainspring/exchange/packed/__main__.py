"""The process apart in which a packed file is unpacked: `python -m mainspring.exchange.packed < file`."""

import sys

from mainspring.exchange.packed.apart import main

sys.exit(main())
