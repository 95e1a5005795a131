"""Where the current flows: the circuit of a site as it stands or is designed, solved for a situation."""
