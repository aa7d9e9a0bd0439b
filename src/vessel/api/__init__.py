"""FastAPI routers and schemas: translate, call, translate back."""
