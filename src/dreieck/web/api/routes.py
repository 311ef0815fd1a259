"""The JSON interface for scripts: described by its OpenAPI page, nothing stored."""

from fastapi import APIRouter

from dreieck.web.api import check, evaluate, locks, shift, uploads

router = APIRouter(prefix="/api/v1", tags=["formulas"])
router.include_router(shift.router)
router.include_router(evaluate.router)
router.include_router(check.router)
router.include_router(locks.router)
router.include_router(uploads.router)
