"""What clients send. What they get back are the services' views, as they are."""
