"""Use cases of the office: what joins the register, planning, inspections and letters. No web, no wire types."""
