"""Asks a running application about a sound."""
import json
import urllib.request
import uuid


def ask(address, path, fields, wav):
    """The answer of a call that takes fields and a sound, as JSON. Raises urllib.error.HTTPError where it is refused."""
    border = uuid.uuid4().hex
    body = b"".join(f'--{border}\r\nContent-Disposition: form-data; name="{n}"\r\n\r\n{v}\r\n'.encode() for n, v in fields.items())
    with open(wav, "rb") as file:
        body += f'--{border}\r\nContent-Disposition: form-data; name="sound"; filename="s.wav"\r\nContent-Type: audio/wav\r\n\r\n'.encode() \
            + file.read() + f"\r\n--{border}--\r\n".encode()
    request = urllib.request.Request(address + path, body, {"Content-Type": f"multipart/form-data; boundary={border}"})
    with urllib.request.urlopen(request) as answer:
        return json.load(answer)
