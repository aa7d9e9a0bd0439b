"""Results to sentences, one module a subject, in the user's units."""
