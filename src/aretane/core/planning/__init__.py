"""What should be played: position maps, plans, options, safeties and what they are worth."""
