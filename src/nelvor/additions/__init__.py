"""What is added to a site in one act: a disconnect ahead, transfer gear with its generator, an inlet with its interlock."""
