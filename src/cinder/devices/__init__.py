"""The plant on its wire: a register map of our own on Modbus TCP, a gateway that simulates a plant, a client that reads any."""
