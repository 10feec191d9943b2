"""From pieces to paper and foam: flat patterns, sheets they are nested on, gauges."""
