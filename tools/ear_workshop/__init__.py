"""Makes the ear: sound of our own, features, training, validation, export. One command each: see tools/ear."""
