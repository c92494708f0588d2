"""Packs filled: what is in one each morning, when it is needed, where it goes, how it rides."""
