"""Measurements: each prints what it did and ends with one line of key=value pairs, ratios of one run among them.

Run as `.venv/bin/python -m benchmarks NAME`. None of them judges; on a shared machine only the ratios mean much.
"""
