"""The values that the desk hands out."""

from ditto_run.store.jobs import Job
from ditto_run.store.pictures import Attachment
from ditto_run.store.shop import Registers

__all__ = ["Attachment", "Job", "Registers"]
