"""What goes over the wire, as records: JSON, schema and the front end's types are derived from them."""
