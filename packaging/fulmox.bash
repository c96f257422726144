# bash completion for fulmox
_fulmox() {
    local word=${COMP_WORDS[COMP_CWORD]}
    if [[ $word == -* ]]; then
        mapfile -t COMPREPLY < <(compgen -W "--demo --report --axis --shots --exit-after-first-paint --help --version" -- "$word")
        return
    fi
    compopt -o filenames 2>/dev/null
    mapfile -t COMPREPLY < <(compgen -d -- "$word"; compgen -f -X '!*.fulmox' -- "$word")
}
complete -F _fulmox fulmox
