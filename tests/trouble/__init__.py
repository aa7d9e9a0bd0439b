"""Sites made without the solver and the receiver of core, and somebody who traces them and answers what is asked."""
