"""Count, report and keep."""

from ditto_run.core.close.report import PieceRow, Report, report

__all__ = ["PieceRow", "Report", "report"]
