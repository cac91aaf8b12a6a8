"""What is handed on, subject by subject: `pages` of the sheets, `record` for plan.json, `maps` as SVG."""
