"""Small widgets the sheets are made of: fields typed in place, handles dragged on the drawing, ruled buttons."""
