"""The sample studio: made-up data, seeded generators, training scripts and the demo folders they make."""
