from pydantic import BaseModel


class Working(BaseModel): ...


def working(*a): ...
