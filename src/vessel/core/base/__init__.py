"""What every floor stands on: errors, cached attributes, shared work, arrays and their algebra."""
