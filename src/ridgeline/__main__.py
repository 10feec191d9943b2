from ridgeline.cli import main

raise SystemExit(main())
