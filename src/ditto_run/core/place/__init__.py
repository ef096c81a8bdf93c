"""Stations: where one piece sits, with its work offset."""

from ditto_run.core.place.station import Station, check_station, place_findings

__all__ = ["Station", "check_station", "place_findings"]
