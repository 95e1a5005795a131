"""Every way in which a wanted source may be connected at a site, each as operations that can be tried out."""
