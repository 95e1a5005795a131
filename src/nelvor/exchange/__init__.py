"""Open formats read and written beside the job document: CSV, XLSX and interval data."""
