"""Flask: a blueprint per noun. Each handler reads as parse, authorise, call core or store, answer."""
