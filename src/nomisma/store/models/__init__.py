"""The tables. Rows of the log (everything but accounts, sessions and sign-in attempts) are written once and never
changed.

Each module has the tables of one subject; nothing else lives here. Import them from this package.
"""

from nomisma.store.models.assembly import AssemblyPlan, AssemblyResult
from nomisma.store.models.at_the_lathe import Cut, Truing, TruingEvent, TruingReading
from nomisma.store.models.base import Base
from nomisma.store.models.jobs import Disposition, Job, JobEvent, JobSummary, KeptAnswer, Limits, PartnerStatement
from nomisma.store.models.parts import Feature, FeatureEvent, Joint, Part
from nomisma.store.models.people import AccessToken, Account, Session, SignInAttempt
from nomisma.store.models.plan import PlanEntry
from nomisma.store.models.practice import PracticeEvent, PracticePart
from nomisma.store.models.readings import GaugeBinding, GaugeReading, Reading, SuspectReading, Trial
from nomisma.store.models.shop import (
    Chuck,
    Instrument,
    InstrumentCheck,
    Machine,
    ShopRuleVersion,
    ShopSetting,
    ShopVersion,
    StockBar,
)

APPEND_ONLY = (
    "access_token",
    "instrument",
    "machine",
    "job",
    "part",
    "feature",
    "feature_event",
    "joint",
    "partner_statement",
    "limits",
    "reading",
    "job_event",
    "shop_rule",
    "shop_setting",
    "assembly_plan",
    "assembly_result",
    "suspect_reading",
    "trial",
    "kept_answer",
    "plan_entry",
    "stock_bar",
    "instrument_check",
    "disposition",
    "gauge_binding",
    "gauge_reading",
    "chuck",
    "truing",
    "truing_reading",
    "truing_event",
    "cut",
    "practice_part",
    "practice_event",
)
"""Tables whose rows are never updated or deleted; triggers refuse it."""

__all__ = [
    "APPEND_ONLY",
    "AccessToken",
    "Account",
    "AssemblyPlan",
    "AssemblyResult",
    "Base",
    "Chuck",
    "Cut",
    "Disposition",
    "Feature",
    "FeatureEvent",
    "GaugeBinding",
    "GaugeReading",
    "Instrument",
    "InstrumentCheck",
    "Job",
    "JobEvent",
    "JobSummary",
    "Joint",
    "KeptAnswer",
    "Limits",
    "Machine",
    "Part",
    "PartnerStatement",
    "PlanEntry",
    "PracticeEvent",
    "PracticePart",
    "Reading",
    "Session",
    "ShopRuleVersion",
    "ShopSetting",
    "ShopVersion",
    "SignInAttempt",
    "StockBar",
    "SuspectReading",
    "Trial",
    "Truing",
    "TruingEvent",
    "TruingReading",
]  # fmt: skip
