"""The rules: one module per discipline behind the interface in `aretane.core.rules.game`."""
