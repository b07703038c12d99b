"""The gateway on its wire, read and written by an independent Modbus client; the application's client against garbage and silence."""

import asyncio
import socket
import socketserver
import threading
import time
from contextlib import contextmanager

import pytest
from pymodbus.client import ModbusTcpClient

from cinder.devices import registers
from cinder.devices.client import GatewayClient, GatewayLost
from cinder.devices.gateway import Gateway
from cinder.devices.run import plant_of
from cinder.errors import Refused
from cinder.model import parse
from tests.conftest import free_port, tansy_cut

KWH_STEP = 0.01


@contextmanager
def served(plant, *, speed=600.0, port=None):
    """A gateway in a thread of its own, gone at the end."""
    port = port or free_port()
    gateway = Gateway(plant, port=port, speed=speed)
    loop = asyncio.new_event_loop()
    thread = threading.Thread(target=lambda: loop.run_until_complete(gateway.serve()), daemon=True)
    thread.start()
    for _ in range(100):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                break
        time.sleep(0.02)
    try:
        yield gateway, port
    finally:
        asyncio.run_coroutine_threadsafe(gateway.stop(), loop).result(5)
        thread.join(5)
        loop.close()


@pytest.fixture(scope="module")
def plant():
    return plant_of(parse(tansy_cut()), first_day=20)


def word(client, address, count=1):
    answer = client.read_holding_registers(address, count=count, device_id=1)
    assert not answer.isError()
    return answer.registers


def signed(value):
    return value - 65536 if value > 32767 else value


def test_an_independent_client_reads_a_plant_that_goes_on(plant):
    with served(plant, speed=3000.0) as (gateway, port):
        client = ModbusTcpClient("127.0.0.1", port=port)
        assert client.connect()
        first = word(client, 1008, 6)
        time.sleep(1.2)
        later = word(client, 1008, 6)
        seconds = [(w[4] << 16) + w[5] for w in (first, later)]
        meters = [[((w[0] << 16) + w[1]) * KWH_STEP, ((w[2] << 16) + w[3]) * KWH_STEP] for w in (first, later)]
        assert seconds[1] - seconds[0] >= 1800
        assert meters[1][0] > meters[0][0]
        outdoor, supply, back = (signed(w) / 10 for w in word(client, 1000, 3))
        assert -10 < outdoor < 15
        assert supply >= back > 15
        rooms = word(client, 1015)[0]
        assert rooms == len(plant.twin.rooms)
        assert all(10 < signed(w) / 10 < 35 for w in word(client, 1100, rooms))
        # clip probes in pairs, the flow tail no cooler than the return tail
        tails = word(client, 1300, 2 * word(client, 1016)[0])
        assert all(signed(a) >= signed(b) - 1 for a, b in zip(tails[::2], tails[1::2], strict=True))
        assert gateway.lag_s < 600
        client.close()


def test_settings_are_written_and_change_the_water(plant):
    with served(plant, speed=600.0) as (_, port):
        client = ModbusTcpClient("127.0.0.1", port=port)
        client.connect()
        before = signed(word(client, 1014)[0]) / 10
        for address, value in ((2001, 600), (2003, 450), (2004, 650)):
            assert not client.write_register(address, value, device_id=1).isError()
        assert word(client, 2001)[0] == 600
        time.sleep(0.6)
        assert signed(word(client, 1014)[0]) / 10 > before + 3
        # beyond its limits: refused, and what stood still stands
        assert client.write_register(2001, 990, device_id=1).exception_code == 3
        assert word(client, 2001)[0] == 600
        # a reading is no setting, an address beyond the map is none at all
        assert client.write_register(1000, 200, device_id=1).isError()
        assert client.read_holding_registers(5000, count=2, device_id=1).isError()
        client.write_register(2007, 0, device_id=1)
        time.sleep(0.5)
        assert word(client, 1003)[0] == 0  # nothing goes round any more
        client.write_register(2007, 1, device_id=1)
        client.close()


def test_it_does_not_fall_behind_at_six_hundred_times(plant):
    with served(plant, speed=600.0) as (gateway, _):
        begun, from_s = time.monotonic(), plant.time_s
        lags = []
        for _ in range(10):
            time.sleep(0.2)
            lags.append(gateway.lag_s)
        passed = (time.monotonic() - begun) * 600
        # whole minutes, a tick, and a machine that may be busy with other things for a second
        assert plant.time_s - from_s > passed - 60 - 600
        assert min(lags) <= 120


def test_our_client_reads_the_same_plant(plant):
    with served(plant) as (_, port):
        client = GatewayClient("127.0.0.1", port, listed=[f"127.0.0.1:{port}"])
        reading = client.read()
        assert reading.problems == []
        assert len(reading.rooms_c) == len(plant.twin.rooms)
        assert len(reading.tails_c) == len(plant.twin.emitters)
        assert reading.figures["outdoor_c"] == pytest.approx(plant.words()[1000][0] / 10, abs=1.0)
        client.write("mild_flow_c", 31.5)
        assert client.read().figures["mild_flow_c"] == 31.5
        with pytest.raises(Refused, match="lies beyond"):
            client.write("mild_flow_c", 85.0)
        with pytest.raises(Refused, match="no setting"):
            client.write("outdoor_c", 5.0)
        client.close()


def test_only_what_the_operator_listed_is_called():
    with pytest.raises(Refused, match="not among the gateways"):
        GatewayClient("127.0.0.1", 5020, listed=["127.0.0.1:5021"])


def test_a_gateway_that_is_not_there_is_named():
    port = free_port()
    client = GatewayClient("127.0.0.1", port, listed=[f"127.0.0.1:{port}"], timeout_s=0.3)
    with pytest.raises(GatewayLost, match=f"127.0.0.1:{port} takes no call"):
        client.read()


def test_a_line_cut_in_the_middle_is_told_and_taken_up_again(plant):
    port = free_port()
    with served(plant, port=port):
        client = GatewayClient("127.0.0.1", port, listed=[f"127.0.0.1:{port}"], timeout_s=0.4)
        client.read()
    with pytest.raises(GatewayLost, match=str(port)):
        client.read()
    with served(plant, port=port):
        assert client.read().figures["rooms"] == len(plant.twin.rooms)
    client.close()


class _Garbage(socketserver.BaseRequestHandler):
    def handle(self):
        self.request.recv(64)
        self.request.sendall(b"HTTP/1.1 200 OK\\r\\n\\r\\nnot what was asked for" * 3)


class _Silence(socketserver.BaseRequestHandler):
    def handle(self):
        time.sleep(1.5)


@pytest.mark.parametrize("handler", [_Garbage, _Silence])
def test_garbage_and_silence_are_no_answer(handler):
    with socketserver.ThreadingTCPServer(("127.0.0.1", 0), handler) as server:
        port = server.server_address[1]
        thread = threading.Thread(target=server.serve_forever, daemon=True)
        thread.start()
        client = GatewayClient("127.0.0.1", port, listed=[f"127.0.0.1:{port}"], timeout_s=0.3)
        with pytest.raises(GatewayLost, match=str(port)):
            client.read()
        client.close()
        server.shutdown()


def test_nonsense_is_left_out_and_named(plant, monkeypatch):
    with served(plant) as (_, port):
        client = GatewayClient("127.0.0.1", port, listed=[f"127.0.0.1:{port}"])
        client.read()
        honest = plant.words
        wrong = {1000: [850], 1010: [0, 0]}
        monkeypatch.setattr(plant, "words", lambda: honest() | wrong)
        reading = client.read()
        assert "outdoor_c" not in reading.figures
        assert any("850" not in said and "85" in said for said in reading.problems)
        assert any("counted down" in said for said in reading.problems)
        assert "supply_c" in reading.figures
        client.close()


def test_words_and_figures_are_each_others_way_back():
    for one in (*registers.READINGS, *registers.SETTINGS):
        for value in (one.low, one.high, (one.low + one.high) / 2):
            held = one.unpack(one.pack(value))
            assert held == pytest.approx(value, abs=one.scale) or not -3276.8 <= value / one.scale * 0.1 <= 3276.7
    used = [one.address + n for one in (*registers.READINGS, *registers.SETTINGS) for n in range(one.words)]
    assert len(used) == len(set(used))
