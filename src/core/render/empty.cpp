namespace cinnabar {}
