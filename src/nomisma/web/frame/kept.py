"""What was typed is never lost: a refused form is handed to the browser, signed, to be sent again after sign-in."""

from dataclasses import dataclass

from itsdangerous import BadData, URLSafeTimedSerializer
from starlette.datastructures import FormData

KEPT_SECONDS = 24 * 3600
_HIDDEN = {"csrf_token", "kept", "page_token", "password", "new_password", "new_password_again"}
_NOT_FOR_READING = {"client_id", "unit", "instrument_id", "based_on_version"}


@dataclass(frozen=True)
class KeptForm:
    """A form that could not be taken: where it was going, and its fields."""

    path: str
    fields: list[tuple[str, str]]

    @property
    def readable(self) -> list[tuple[str, str]]:
        """The fields a person typed, with plain names."""
        return [
            (name.replace("_", " "), value) for name, value in self.fields if value and name not in _NOT_FOR_READING
        ]


class Keeper:
    """Signs kept forms and reads them back; a token that was changed or is a day old is no longer one."""

    def __init__(self, secret: str) -> None:
        self._signer = URLSafeTimedSerializer(secret, salt="kept-form")

    def keep(self, path: str, form: FormData) -> str:
        """A token for the browser to hold; passwords and CSRF tokens are left out."""
        fields = [(name, value) for name, value in form.multi_items() if isinstance(value, str) and name not in _HIDDEN]
        return self._signer.dumps({"path": path, "fields": fields})

    def read(self, token: str) -> KeptForm | None:
        """The form behind a token, or None."""
        try:
            data = self._signer.loads(token, max_age=KEPT_SECONDS)
        except BadData:
            return None
        return KeptForm(data["path"], [(name, value) for name, value in data["fields"]])
