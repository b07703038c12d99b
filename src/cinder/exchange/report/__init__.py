"""The heat-loss report as a page, made from the same Design as the screens."""

from cinder.exchange.report.heat_loss import Material, html

__all__ = ["Material", "html"]
