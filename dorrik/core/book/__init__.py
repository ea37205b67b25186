"""What is looked up: reference tables, rule books, house rules, the catalogue of observations."""
