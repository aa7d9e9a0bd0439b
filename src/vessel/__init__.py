"""Vessel: plan, prove, trace and record the locating of buried lines."""

__version__ = "0.2.0"
