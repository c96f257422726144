# bash completion for fulmox-cli
_fulmox_cli() {
    local word=${COMP_WORDS[COMP_CWORD]} command=${COMP_WORDS[1]}
    if [ "$COMP_CWORD" = 1 ]; then
        mapfile -t COMPREPLY < <(compgen -W "assess validate units schema --help --version" -- "$word")
        return
    fi
    case $command in
    assess)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--json --working --help" -- "$word")
            return
        fi ;;
    validate) ;;
    *) return ;;
    esac
    compopt -o filenames 2>/dev/null
    mapfile -t COMPREPLY < <(compgen -d -- "$word"; compgen -f -X '!*.fulmox' -- "$word")
}
complete -F _fulmox_cli fulmox-cli
