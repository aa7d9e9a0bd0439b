"""What the interface gets: figures in SI for pictures, and texts with units in the user's system."""

from vessel.api.views.catalogue import (
    Catalogue,
    KitView,
    PresetView,
    RulesView,
    RuleView,
    SoilView,
    Understanding,
    UtilityView,
)
from vessel.api.views.hookup import HookupView, HypothesisView, LoopView, ReadingView, ShareView, StepView
from vessel.api.views.kinds import Hookup, Outcome, StepName, Units, Verdict
from vessel.api.views.lines import Created, JobRow, JobView, LineDetail, LineState, NeighbourTyped
from vessel.api.views.plan import BleedOffView, ForecastView, OptionView, PlanView, ZoneView
from vessel.api.views.trace import (
    BandView,
    BesideView,
    FindingView,
    LineRecord,
    MarkView,
    RecordView,
    StationView,
    TraceView,
)

__all__ = [
    "BandView",
    "BesideView",
    "BleedOffView",
    "Catalogue",
    "Created",
    "FindingView",
    "ForecastView",
    "Hookup",
    "HookupView",
    "HypothesisView",
    "JobRow",
    "JobView",
    "KitView",
    "LineDetail",
    "LineRecord",
    "LineState",
    "LoopView",
    "MarkView",
    "NeighbourTyped",
    "OptionView",
    "Outcome",
    "PlanView",
    "PresetView",
    "ReadingView",
    "RecordView",
    "RuleView",
    "RulesView",
    "ShareView",
    "SoilView",
    "StationView",
    "StepName",
    "StepView",
    "TraceView",
    "Understanding",
    "Units",
    "UtilityView",
    "Verdict",
    "ZoneView",
]
