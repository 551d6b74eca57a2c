"""Names and the schema version of the logbook, shared by the quick reader and the full one."""

SCHEMA_VERSION = "0005"
ENTRY_COLUMNS = ("seq", "at", "person", "instrument", "block_c", "typed", "version", "body", "hash")
TABLES = ("job", "entry", "shop_figure")  # what every logbook of this program has had
