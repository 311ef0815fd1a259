"""What people check: findings and mends, aims, four ways, trials."""
