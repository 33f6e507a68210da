"""The trade's knowledge and arithmetic: no web framework, no input or output but its own tables."""
