"""A self-signed certificate, so that a tablet on the local network gets a secure page (camera, offline mode).

python -m cinder.web.tls FOLDER      makes it if need be and prints this machine's addresses, one a line
"""

from __future__ import annotations

import datetime
import ipaddress
import secrets
import socket
import sys
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

DAYS = 397


def addresses() -> list[str]:
    """Names and addresses under which this machine can be reached on the local network, 127.0.0.1 last."""
    found = []
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as s:
        try:
            s.connect(("192.0.2.1", 9))  # a documentation address: nothing is sent, the route names our own address
            found.append(str(s.getsockname()[0]))
        except OSError:
            pass
    name = socket.gethostname()
    found += [f"{name}.local", name]
    return [*dict.fromkeys(a for a in found if not a.startswith("127.")), "localhost", "127.0.0.1"]


def make(folder: Path, names: list[str]) -> tuple[Path, Path]:
    """Certificate and key in a folder, made anew when missing, near its end, or for other names."""
    folder.mkdir(parents=True, exist_ok=True)
    certificate, key = folder / "certificate.crt", folder / "key.pem"
    if certificate.exists() and key.exists():
        old = x509.load_pem_x509_certificate(certificate.read_bytes())
        left = old.not_valid_after_utc - datetime.datetime.now(datetime.UTC)
        known = old.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
        if left.days > 14 and {str(n.value) for n in known} >= set(names):
            return certificate, key
    private = ec.generate_private_key(ec.SECP256R1())
    who = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Mellow Cinder on {names[0]}")])
    now = datetime.datetime.now(datetime.UTC)
    made = (
        x509.CertificateBuilder()
        .subject_name(who)
        .issuer_name(who)
        .public_key(private.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - datetime.timedelta(minutes=5))
        .not_valid_after(now + datetime.timedelta(days=DAYS))
        .add_extension(x509.SubjectAlternativeName([_name(n) for n in names]), critical=False)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(private, hashes.SHA256())
    )
    form = serialization.PrivateFormat.PKCS8
    key.write_bytes(private.private_bytes(serialization.Encoding.PEM, form, serialization.NoEncryption()))
    key.chmod(0o600)
    certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))
    return certificate, key


def _name(text: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(text))
    except ValueError:
        return x509.DNSName(text)


def pairing_code(folder: Path) -> str:
    """The code a tablet must hold, kept in the folder so that a paired tablet stays paired."""
    file = folder / "pairing"
    if not file.exists():
        folder.mkdir(parents=True, exist_ok=True)
        file.write_text(secrets.token_urlsafe(9))
        file.chmod(0o600)
    return file.read_text().strip()


if __name__ == "__main__":
    here = Path(sys.argv[1])
    names = addresses()
    make(here, names)
    pairing_code(here)
    print("\n".join(names))
