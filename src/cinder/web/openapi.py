"""Print the OpenAPI document, from which the TypeScript types are generated: python -m cinder.web.openapi"""

import sys

import orjson

from cinder.web.app import create_app

if __name__ == "__main__":
    document = create_app("postgresql://nobody@127.0.0.1:1/none").openapi()
    sys.stdout.buffer.write(orjson.dumps(document))
