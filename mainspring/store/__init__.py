"""What is kept: sites, lines, evidence, settings and events in MariaDB, and the private server that holds them."""
