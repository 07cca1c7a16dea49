"""Looking back at what was played: layouts carried along, position errors, the facts behind figures."""
