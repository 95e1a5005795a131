"""Questions of the code, a module for each: figures in, figures out. Nothing here knows a site."""
