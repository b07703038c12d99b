"""Hot water kept: charged, drawn, layer by layer."""
