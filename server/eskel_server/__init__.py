"""The Django project: settings, the HTTP API put together, and the page that the application is served from."""
