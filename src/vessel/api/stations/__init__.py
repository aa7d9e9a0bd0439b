"""Stations and their traces."""
