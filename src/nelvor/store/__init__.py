"""Shops, members, jobs and revisions in PostgreSQL. Every query takes the shop it is for."""
