"""The table drawn: shapes in metres, which the page and the server's SVG paint by one and the same look."""
