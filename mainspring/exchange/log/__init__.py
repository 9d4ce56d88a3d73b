"""Logs as loggers, meters and building systems write them: recognised, read as confirmed, kept small."""

from mainspring.exchange.log.layout import Layout, LogColumn, layout_from
from mainspring.exchange.log.read import read_log
from mainspring.exchange.log.recognise import Look, look_at

__all__ = ["Layout", "LogColumn", "Look", "layout_from", "look_at", "read_log"]
