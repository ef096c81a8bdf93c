"""Count, report and keep."""

from ditto_run.core.close.report import PieceRow, Report, actual_piece_s, report

__all__ = ["PieceRow", "Report", "actual_piece_s", "report"]
