"""Every code there is: what is stored, compared and looked up by. A code stays as it is for good; what it
is called stands in `said`. Nothing here depends on anything."""
