from ridgeline.start import main

raise SystemExit(main())
