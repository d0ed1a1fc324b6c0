"""Speed, measured side by side with public libraries in one run. Figures of one machine; the ratios are what
counts."""
