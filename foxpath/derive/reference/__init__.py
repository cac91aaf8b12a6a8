"""The reference: `seeing` brings it to the screen, `inspection` judges it, `health_maps` writes that down, `transfer` draws its lines."""
