"""Every figure that someone may argue about, with its unit, range and source: a table a topic."""
