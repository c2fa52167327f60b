"""What ./limpet does before Limpet itself can run: standard library only."""
