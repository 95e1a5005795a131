"""What is derived from a design without judging it: what joins what, who feeds whom, legs, protection, names."""
