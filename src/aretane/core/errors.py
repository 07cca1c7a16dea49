"""What a caller did wrong, in words that name the field."""


class InputError(ValueError):
    """A value from outside that cannot be used.

    `field` is a path such as ``balls.3`` or ``racks[0].shots[4].potted``; `message` is one sentence
    for the person who wrote the value.
    """

    def __init__(self, field: str, message: str) -> None:
        super().__init__(f"{field}: {message}" if field else message)
        self.field = field
        self.message = message

    def __reduce__(self) -> tuple[object, ...]:
        """Carried over from a worker as it is; the default would call it with one argument."""
        return InputError, (self.field, self.message)


class ImpossibleShot(InputError):
    """A shot that cannot have happened as recorded. `rule` names what it breaks."""

    def __init__(self, rack: int, shot: int, rule: str, message: str) -> None:
        super().__init__(f"racks[{rack}].shots[{shot}]", f"{message} ({rule})")
        self.rack = rack
        self.shot = shot
        self.rule = rule
