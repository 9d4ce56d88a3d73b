"""Is the motor well, the drive cool, the machine on its curve: proven from readings, each with its working."""

from mainspring.core.benches.proof.drift import Drift, drift_of
from mainspring.core.benches.proof.load import Estimate, Proof, proof_of
from mainspring.core.benches.proof.looks import Place, looks_of
from mainspring.core.benches.proof.rule import Look

__all__ = ["Drift", "Estimate", "Look", "Place", "Proof", "drift_of", "looks_of", "proof_of"]
