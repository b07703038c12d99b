"""HTTP: thin routes over the store and the design; static pages."""
