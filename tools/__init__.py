"""Set-up and launching. Standard library only: these modules run before anything is installed."""
