"""The templates of everything that is written for people to read."""

from __future__ import annotations

from functools import lru_cache

from jinja2 import Environment, PackageLoader, StrictUndefined, Template

from redline_bore.core.when import day, zoned


@lru_cache(maxsize=4)
def template(name: str) -> Template:
    """A template of ``store/templates``; a name it does not know fails, and text is escaped."""
    environment = Environment(
        loader=PackageLoader("redline_bore.store", "templates"), autoescape=True, undefined=StrictUndefined,
        trim_blocks=True, lstrip_blocks=True,
    )  # fmt: skip
    environment.filters |= {"zoned": zoned, "day": day}
    environment.filters["size_in"] = lambda mm, show: show.size(mm)
    return environment.get_template(name)
